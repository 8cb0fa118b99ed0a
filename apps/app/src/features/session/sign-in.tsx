import { useRouter } from 'expo-router'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import { Pressable, ScrollView, View } from 'react-native'
import { postPlain } from '../../data/api'
import { queryClient, useSignInHints } from '../../data/queries'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'
import { Mark } from './mark'

interface Form {
  email: string
  password: string
}
const EMAIL = /^\s*[^\s@]+@[^\s@]+\s*$/

/** E-mail, password, and on a demo the people who may sign in. */
export function SignIn() {
  const router = useRouter()
  const hints = useSignInHints()
  const [problem, setProblem] = useState<string | null>(null)
  const { control, handleSubmit, formState } = useForm<Form>({ defaultValues: { email: '', password: '' } })
  const signIn = async ({ email, password }: Form): Promise<void> => {
    setProblem(null)
    try {
      await postPlain('/api/auth/sign-in', { email, password })
      queryClient.clear()
      router.replace('/today')
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'Sign-in did not work.')
    }
  }
  const submit = handleSubmit(signIn)
  return (
    <ScrollView role="main" className="flex-1 bg-paper" contentContainerClassName="mx-auto w-full max-w-[420px] gap-5 px-5 py-10">
      <View className="flex-row items-center gap-3">
        <Mark size={52} />
        <View>
          <T kind="title" level={1}>
            Even Round
          </T>
          <T kind="quiet">What is due, in what order, and why</T>
        </View>
      </View>
      <Controller
        control={control}
        name="email"
        rules={{ validate: (email) => EMAIL.test(email) || 'Type an e-mail, such as name@firm.example' }}
        render={({ field, fieldState }) => (
          <Field
            label="E-mail"
            value={field.value}
            onChangeText={field.onChange}
            onBlur={field.onBlur}
            error={fieldState.error?.message}
            inputMode="email"
            autoComplete="username"
            autoCapitalize="none"
          />
        )}
      />
      <Controller
        control={control}
        name="password"
        rules={{ required: 'Type your password' }}
        render={({ field, fieldState }) => (
          <Field
            label="Password"
            value={field.value}
            onChangeText={field.onChange}
            onBlur={field.onBlur}
            error={fieldState.error?.message}
            secureTextEntry
            autoComplete="current-password"
            onSubmitEditing={() => void submit()}
          />
        )}
      />
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <Button
        label={formState.isSubmitting ? 'Signing in …' : 'Sign in'}
        kind="act"
        size="big"
        disabled={formState.isSubmitting}
        onPress={() => void submit()}
      />
      {hints.data && hints.data.people.length > 0 ? (
        <View className="gap-2 border-t-2 border-line pt-4">
          <T kind="heading" level={2}>
            Demo: Skellan Sound
          </T>
          <T kind="quiet">{`Made-up people and places. Password for all: ${hints.data.people[0]?.password ?? ''}`}</T>
          {hints.data.people.map((person) => (
            <Pressable
              key={person.email}
              role="button"
              aria-label={`Sign in as ${person.name}`}
              onPress={() => void signIn(person)}
              className="min-h-[56px] justify-center rounded-card border-2 border-line bg-sheet px-4 py-2 active:bg-line"
            >
              <T kind="strong">{person.name}</T>
              <T kind="small">{`${person.role} · ${person.email}`}</T>
            </Pressable>
          ))}
        </View>
      ) : null}
    </ScrollView>
  )
}
