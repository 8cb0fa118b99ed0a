/** What a telephone dials of a number as it was typed; empty where nothing of it can be dialled. */
export const dialled = (phone: string): string => phone.replace(/[^+\d]/g, '')
