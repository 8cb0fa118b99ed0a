import { zodResolver } from '@hookform/resolvers/zod'
import { useState } from 'react'
import { type DefaultValues, type FieldValues, type Path, type UseFormReturn, useForm } from 'react-hook-form'
import type * as z from 'zod/mini'
import { ApiProblem, problemText } from '../../data/api'

interface SavedFormOptions<Typed extends FieldValues, Read> {
  /** What may be typed, and what it means: the same schema says what is wrong at which field. */
  schema: z.ZodMiniType<Read, Typed>
  values: Typed
  /** Saves what was read; `version` is that of what stands on the server, where the thing has versions. */
  save: (read: Read, version: number) => Promise<void>
  version?: number
  /** The field that a path of the server's refusal belongs to. */
  fieldOf?: (path: string) => Path<Typed>
  /** Somebody else changed the thing meanwhile: what stands now. Left out, that is said like any other refusal. */
  onTheirs?: (current: unknown) => void
}

export interface SavedForm<Typed extends FieldValues, Read> {
  control: UseFormReturn<Typed, unknown, Read>['control']
  form: UseFormReturn<Typed, unknown, Read>
  submit: () => void
  /** A refusal that belongs to no field, in words. */
  problem: string | null
  busy: boolean
  /** Goes on from a version that somebody else made, with what was typed here. */
  goOnFrom: (version: number) => void
}

/**
 * A form that is saved on the server: what was typed is read by its schema, a refusal is said at the field it belongs to, and an edit of
 * an old version is never written over somebody else's.
 */
export function useSavedForm<Typed extends FieldValues, Read>({
  schema,
  values,
  save,
  version: opened = 0,
  fieldOf = (path) => path as Path<Typed>,
  onTheirs,
}: SavedFormOptions<Typed, Read>): SavedForm<Typed, Read> {
  const form = useForm<Typed, unknown, Read>({
    resolver: zodResolver(schema),
    defaultValues: values as DefaultValues<Typed>,
    mode: 'onTouched',
  })
  const [version, setVersion] = useState(opened)
  const [problem, setProblem] = useState<string | null>(null)
  const submit = form.handleSubmit(async (read) => {
    setProblem(null)
    try {
      await save(read, version)
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'STALE_VERSION' && onTheirs) return onTheirs(error.current)
      const atFields = (error instanceof ApiProblem ? error.fields : []).flatMap(({ path, message }) => {
        const name = fieldOf(path)
        return name in values ? [{ name, message }] : []
      })
      for (const { name, message } of atFields) form.setError(name, { message })
      if (atFields.length === 0) setProblem(problemText(error))
    }
  })
  return {
    control: form.control,
    form,
    submit: () => void submit(),
    problem,
    busy: form.formState.isSubmitting,
    goOnFrom: (current) => {
      setVersion(current)
      onTheirs?.(null)
    },
  }
}
