import { keepAnswers } from './data/keep'
import { keepProgram } from './data/program'
import { askEarly } from './data/queries'

// The questions travel while the router and the screens' own code are still being set up.
askEarly(window.location.pathname)
keepAnswers()
keepProgram()
require('expo-router/entry')
