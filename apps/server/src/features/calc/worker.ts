import { type CalcAnswer, runCalc } from '@evenround/contract/calc'

export default function work({ name, input }: { name: string; input: unknown }): CalcAnswer {
  return runCalc(name, input)
}
