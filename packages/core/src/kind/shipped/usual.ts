import type { UsualQuantity } from '../kind'

/**
 * What is usually wanted of each sort of device. No registers: these its manual says.
 * @source common practice, no source
 */
export const ofMeters: readonly UsualQuantity[] = [
  { quantity: 'Active power', unit: 'kW', decimals: 2 },
  { quantity: 'Active energy, imported', unit: 'kWh', decimals: 1 },
  { quantity: 'Active energy, exported', unit: 'kWh', decimals: 1 },
  { quantity: 'Voltage L1 to N', unit: 'V', decimals: 1 },
  { quantity: 'Voltage L2 to N', unit: 'V', decimals: 1 },
  { quantity: 'Voltage L3 to N', unit: 'V', decimals: 1 },
  { quantity: 'Current L1', unit: 'A', decimals: 2 },
  { quantity: 'Current L2', unit: 'A', decimals: 2 },
  { quantity: 'Current L3', unit: 'A', decimals: 2 },
  { quantity: 'Frequency', unit: 'Hz', decimals: 2 },
  { quantity: 'Power factor', unit: '', decimals: 3 },
]

export const ofDrives: readonly UsualQuantity[] = [
  { quantity: 'Output frequency', unit: 'Hz', decimals: 1 },
  { quantity: 'Speed', unit: 'r/min', decimals: 0 },
  { quantity: 'Output current', unit: 'A', decimals: 1 },
  { quantity: 'Output power', unit: 'kW', decimals: 2 },
  { quantity: 'DC link voltage', unit: 'V', decimals: 0 },
  { quantity: 'Fault code', unit: '', decimals: 0 },
  { quantity: 'Status word', unit: '', decimals: 0 },
]

export const ofInverters: readonly UsualQuantity[] = [
  { quantity: 'AC power', unit: 'kW', decimals: 2 },
  { quantity: 'PV power', unit: 'kW', decimals: 2 },
  { quantity: 'Battery power', unit: 'kW', decimals: 2 },
  { quantity: 'Battery state of charge', unit: '%', decimals: 0 },
  { quantity: 'Energy today', unit: 'kWh', decimals: 1 },
  { quantity: 'Grid frequency', unit: 'Hz', decimals: 2 },
]

export const ofUps: readonly UsualQuantity[] = [
  { quantity: 'Battery state of charge', unit: '%', decimals: 0 },
  { quantity: 'Time left on battery', unit: 'min', decimals: 0 },
  { quantity: 'Load', unit: '%', decimals: 0 },
  { quantity: 'Input voltage', unit: 'V', decimals: 0 },
  { quantity: 'Output voltage', unit: 'V', decimals: 0 },
  { quantity: 'Battery temperature', unit: '°C', decimals: 1 },
]

export const ofFieldDevices: readonly UsualQuantity[] = [
  { quantity: 'Measured value', unit: '', decimals: 2 },
  { quantity: 'Temperature', unit: '°C', decimals: 1 },
  { quantity: 'Status', unit: '', decimals: 0 },
]
