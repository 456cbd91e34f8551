import type { MenuFacts } from '../../menu'

/**
 * Menu of the made-up network card that ships with the demo. A card in a panel has another: its kind is a copy with its
 * own prompts, from its manual.
 */
export const upsCardMenu: MenuFacts = {
  line: '9600 8N1',
  wake: 'return',
  logIn: ['user:', 'password:'],
  home: 'choice:',
  back: [{ prompt: 'press enter:', answer: '' }],
  tasks: [
    {
      id: 'unit-code',
      name: 'Code of the unit',
      answers: [
        { prompt: 'choice:', answer: '2' },
        { prompt: 'code:', answer: '{upsCode}' },
      ],
      shows: 'test data: *',
      refuses: ['test data: battery 0 %*'],
    },
    {
      id: 'address-fixed',
      name: 'Fixed address',
      answers: [
        { prompt: 'choice:', answer: '1' },
        { prompt: 'address by (fixed, lease):', answer: 'fixed' },
        { prompt: 'address:', answer: '{planned}' },
        { prompt: 'mask:', answer: '{mask}' },
        { prompt: 'gateway:', answer: '{gatewayOrBlank}' },
      ],
      shows: 'not saved yet',
    },
    {
      id: 'address-lease',
      name: 'Address by lease',
      answers: [
        { prompt: 'choice:', answer: '1' },
        { prompt: 'address by (fixed, lease):', answer: 'lease' },
      ],
      shows: 'not saved yet',
    },
    {
      id: 'services',
      name: 'Services',
      answers: [
        { prompt: 'choice:', answer: '3' },
        { prompt: 'service (modbus on, modbus off):', answer: 'modbus on' },
      ],
      shows: 'modbus on, not saved yet',
    },
    {
      id: 'save',
      name: 'Save and restart',
      answers: [
        { prompt: 'choice:', answer: '9' },
        { prompt: 'save and restart? (yes):', answer: 'yes' },
      ],
      shows: 'restarting',
      ends: true,
    },
    {
      id: 'show',
      name: 'What it has',
      answers: [{ prompt: 'choice:', answer: '4' }],
      shows: 'address now *',
    },
  ],
  reads: [
    { label: 'address now', is: 'address' },
    { label: 'mask now', is: 'mask' },
    { label: 'gateway now', is: 'gateway' },
    { label: 'firmware', is: 'firmware' },
    { label: 'code of the unit', is: 'set-code' },
    { label: 'test data', is: 'test-data' },
  ],
}
