import { askEarly } from './data/queries'

// The questions travel while the router and the screens' own code are still being set up.
askEarly(window.location.pathname)
require('expo-router/entry')
