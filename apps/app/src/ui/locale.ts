/** The decimal mark of the device's language; the other of the two then groups thousands. */
export function localDecimal(): '.' | ',' {
  return (1.5).toLocaleString(navigator.language).includes(',') ? ',' : '.'
}
