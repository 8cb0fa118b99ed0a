import type { DueRulesDto, HindsightDto, RulePreview } from '@evenround/contract/wear'
import type { RuleLevel } from '@evenround/core/firm'
import type { KeptRule, Use } from '@evenround/core/wear'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask } from './api'
import { queryClient } from './queries'

/** What a rule is about: the firm, a medium, or a site, a system or a stage by its id. */
export interface RulePlace {
  level: RuleLevel
  about: string
}

/** Screens that show a due day. */
const DUE_ROOTS = ['stage', 'due', 'due-rules', 'site', 'sites', 'today', 'stop', 'shelf'] as const
const refreshDues = (): void => {
  for (const root of DUE_ROOTS) void queryClient.invalidateQueries({ queryKey: [root] })
}

export const useDueRules = () => useQuery<DueRulesDto>({ queryKey: ['due-rules'], queryFn: () => ask(api['due-rules'].$get()) })
export const useHindsight = () =>
  useQuery<HindsightDto>({ queryKey: ['due-rules', 'hindsight'], queryFn: () => ask(api['due-rules'].hindsight.$get()) })

/** What a choice would do to the next due days it is about; asked again with every change of it. */
export const useRulePreview = ({ level, about }: RulePlace, rule: KeptRule | null, enabled: boolean) =>
  useQuery<RulePreview>({
    queryKey: ['due-rules', 'preview', level, about, rule],
    queryFn: () => ask(api['due-rules'].preview.$post({ json: { level, about, rule } })),
    enabled,
    placeholderData: keepPreviousData,
  })

/** Chooses a rule, or takes it back with null. */
export async function chooseRule({ level, about }: RulePlace, rule: KeptRule | null): Promise<void> {
  await ask(api['due-rules'].$put({ json: { level, about, rule } }))
  refreshDues()
}

/** Says how much is drawn, or takes it back with null. */
export async function stateUse(level: 'site' | 'system' | 'stage', about: string, use: Use | null): Promise<void> {
  await ask(api.uses.$put({ json: { level, about, use } }))
  refreshDues()
}
