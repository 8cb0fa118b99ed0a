import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What is stored is rewritten by the owner, which row-level security and the append-only trigger would keep from it otherwise. */
async function rewriting(run: QueryRunner, table: string, work: () => Promise<void>): Promise<void> {
  await run.query(`alter table ${table} no force row level security`)
  await run.query(`alter table ${table} disable trigger append_only`)
  await work()
  await run.query(`alter table ${table} enable trigger append_only`)
  await run.query(`alter table ${table} force row level security`)
}

const VERB = `substring(step_key from '^[^/]*/([a-z-]+):')`
const ABOUT = `substring(step_key from '^[^/]*/[a-z-]+:([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})')`
const LEFT = `answer ~ '^left( out)?: '`
const EARLY = `answer ~ '^stopped with .* left$'`
const CHOSEN = `(answer = 'carried away' or answer ~ '^[a-z][a-z-]{0,30}$')`

/** What a row's answer was, from the columns that took its place. */
const ANSWER = `case outcome
  when 'answered' then case choice when 'carried-away' then 'carried away' else choice end
  when 'left-out' then case when verb is null then 'left: ' else 'left out: ' end || note
  when 'early' then 'stopped with ' || note || ' left'
  else note end`
const SURPRISE = `surprise || coalesce(':' || stage_id::text, '')`

/** Everything a table's facts say, in one line: the same before and after, or the migration is undone. */
async function fingerprint(run: QueryRunner, table: string, answer: string): Promise<string> {
  const [row] = await run.query(
    `select count(*) || '/' || coalesce(md5(string_agg(id || '|' || step_key || '|' || coalesce(${answer}, '-'), ',' order by id)), '') as mark from ${table}`,
  )
  return String(row.mark)
}

async function unchanged(run: QueryRunner, table: string, was: string, answer: string): Promise<void> {
  const is = await fingerprint(run, table, answer)
  if (is !== was) throw new Error(`the facts of ${table} would not say the same: ${was} became ${is}`)
}

const RENAMED = [
  ['fact_strip_read', 'scale_range', 'range'],
  ['fact_sample_result', 'report_day', 'day'],
  ['fact_job_day_ended', 'job_day', 'day'],
] as const

/** How a step came out, and what a surprise is about, in columns of their own instead of words inside one text. */
export class Steps0011 implements MigrationInterface {
  name = 'Steps00119800000000011'

  async up(run: QueryRunner): Promise<void> {
    await rewriting(run, 'fact_step_done', async () => {
      const was = await fingerprint(run, 'fact_step_done', 'answer')
      await run.query(
        'alter table fact_step_done add column verb text, add column stage_id uuid, add column outcome text, add column choice text, add column note text',
      )
      await run.query(`update fact_step_done set verb = ${VERB}, stage_id = ${ABOUT}::uuid,
        outcome = case when answer is null then 'done' when ${LEFT} then 'left-out' when ${EARLY} then 'early' when ${CHOSEN} then 'answered' else 'done' end,
        choice = case when answer is not null and not ${LEFT} and not ${EARLY} and ${CHOSEN} then replace(answer, ' ', '-') end,
        note = case when ${LEFT} then substring(answer from '^left(?: out)?: (.*)$') when ${EARLY} then substring(answer from '^stopped with (.*) left$')
          when not ${CHOSEN} then answer end`)
      await unchanged(run, 'fact_step_done', was, ANSWER)
      await run.query(`alter table fact_step_done alter column outcome set not null, drop column answer,
        add constraint chosen_when_answered check ((outcome = 'answered') = (choice is not null))`)
    })
    await rewriting(run, 'fact_step_surprise', async () => {
      const was = await fingerprint(run, 'fact_step_surprise', 'answer')
      await run.query('alter table fact_step_surprise add column surprise text, add column stage_id uuid')
      await run.query(
        `update fact_step_surprise set surprise = split_part(answer, ':', 1), stage_id = nullif(split_part(answer, ':', 2), '')::uuid`,
      )
      await unchanged(run, 'fact_step_surprise', was, SURPRISE)
      await run.query('alter table fact_step_surprise alter column surprise set not null, drop column answer')
    })
    for (const [table, before, after] of RENAMED) await run.query(`alter table ${table} rename column ${before} to ${after}`)
  }

  async down(run: QueryRunner): Promise<void> {
    for (const [table, before, after] of RENAMED) await run.query(`alter table ${table} rename column ${after} to ${before}`)
    await rewriting(run, 'fact_step_surprise', async () => {
      const was = await fingerprint(run, 'fact_step_surprise', SURPRISE)
      await run.query('alter table fact_step_surprise add column answer text')
      await run.query(`update fact_step_surprise set answer = ${SURPRISE}`)
      await unchanged(run, 'fact_step_surprise', was, 'answer')
      await run.query('alter table fact_step_surprise alter column answer set not null, drop column surprise, drop column stage_id')
    })
    await rewriting(run, 'fact_step_done', async () => {
      const was = await fingerprint(run, 'fact_step_done', ANSWER)
      await run.query('alter table fact_step_done add column answer text')
      await run.query(`update fact_step_done set answer = ${ANSWER}`)
      await unchanged(run, 'fact_step_done', was, 'answer')
      await run.query(
        'alter table fact_step_done drop constraint chosen_when_answered, drop column verb, drop column stage_id, drop column outcome, drop column choice, drop column note',
      )
    })
  }
}
