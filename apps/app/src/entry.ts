// Brings files of the program that are asked for later: the language before anything else.
import 'expo'
import { keepAnswers } from './data/keep'
import { deviceLanguage, startLanguage } from './data/language'
import { keepProgram } from './data/program'
import { askEarly } from './data/queries'

// The questions travel while the router and the screens' own code are still being set up.
askEarly(window.location.pathname)
keepAnswers()
keepProgram()
// Screens name things where they are defined: the language is there before any of them is.
const open = (): void => void require('expo-router/entry')
if (deviceLanguage() === 'en') open()
else void startLanguage().then(open)
