import { say } from '@evenround/core/words'
import { Component, type ReactNode } from 'react'
import { View } from 'react-native'
import { Failed } from './states'

interface BoundaryProps {
  what: string
  children: ReactNode
}

/**
 * Holds a screen that breaks, or whose code did not arrive, so that the rest of the program stands and says what to do.
 * React knows no other way than a class for it.
 */
export class Boundary extends Component<BoundaryProps, { error: Error | null }> {
  override state: { error: Error | null } = { error: null }

  static getDerivedStateFromError(error: unknown): { error: Error } {
    return { error: error instanceof Error ? error : new Error(String(error)) }
  }

  override render(): ReactNode {
    const { error } = this.state
    if (error === null) return this.props.children
    const told = new Error(say`What you recorded is safe on this device. Opening it again usually helps. (${error.message})`)
    return (
      <View role="main" className="flex-1 bg-paper p-4">
        <Failed what={this.props.what} error={told} onRetry={() => window.location.reload()} />
      </View>
    )
  }
}
