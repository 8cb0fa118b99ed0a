/**
 * Facts that count: neither taken back nor corrected. `f` is the fact's alias and `$1` the firm. The corrections of a firm are few and
 * hashed once a query; asking for each fact apart would cost an index probe a fact and month.
 */
export const counting = (table: string): string => `not f.voided and f.id not in (
  select later.supersedes from ${table} later where later.firm_id = $1 and later.supersedes is not null)`
