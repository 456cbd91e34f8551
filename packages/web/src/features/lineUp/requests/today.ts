import { format } from 'date-fns/format'

/** This day as the job writes days: `2026-11-25`. */
export const today = (): string => format(new Date(), 'yyyy-MM-dd')
