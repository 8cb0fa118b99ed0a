import { cssInterop } from 'nativewind'
import { Pressable, ScrollView, Text, TextInput, View } from 'react-native'

/** The components that take `className`; a new one is added here (see metro.config.js for why). */
cssInterop(View, { className: 'style' })
cssInterop(Text, { className: 'style' })
cssInterop(Pressable, { className: 'style' })
cssInterop(TextInput, { className: 'style' })
cssInterop(ScrollView, { className: 'style', contentContainerClassName: 'contentContainerStyle' })
