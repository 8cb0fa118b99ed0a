// Brings files of the program that are asked for later: the language before anything else.
import 'expo'
import { keepAnswers } from './data/keep'
import { startLanguage } from './data/language'
import { fetchSharedLate } from './data/late-files'
import { keepProgram } from './data/program'
import { askEarly } from './data/queries'

// The questions travel while the router and the screens' own code are still being set up.
askEarly(window.location.pathname)
keepAnswers()
keepProgram()
// Screens name things where they are defined: the language is there before any of them is. Its file stands alone, and needs no shared one.
const spoken = startLanguage()
fetchSharedLate()
const open = (): void => void require('expo-router/entry')
if (spoken === null) open()
else void spoken.then(open)
