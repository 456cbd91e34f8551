/** @jest-environment jsdom */
import { sampleDevice, sampleJob, sampleLine, sampleNetwork, samplePort } from '@calm/core/job/fixtures'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { ProblemError } from '../../../api'
import { likeABrowser, seriousIn } from '../../../fixtures'
import { drawn } from '../../../fixtures/drawn'
import AddDevice from './addDevice'
import LineDialog from './lineDialog'
import NetworkDialog from './networkDialog'

beforeAll(likeABrowser)
afterEach(cleanup)

const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label)
const fill = async (label: string, text: string) => {
  await userEvent.clear(field(label))
  if (text !== '') await userEvent.type(field(label), text)
}
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))
const noteOf = (label: string) =>
  document.getElementById(field(label).getAttribute('aria-describedby') ?? '')?.textContent ?? ''
const take = async (label: string, option: string | RegExp) => {
  await userEvent.click(screen.getByRole('combobox', { name: label }))
  await userEvent.click(screen.getByRole('option', { name: option }))
}
const nothing = () => undefined

describe('a network', () => {
  const shown = (network = undefined as ReturnType<typeof sampleNetwork> | undefined) => {
    const saved = jest.fn((_: unknown) => Promise.resolve())
    const closed = jest.fn()
    drawn(<NetworkDialog network={network} onSave={saved} onRemove={nothing} onClose={closed} />)
    return { saved, closed }
  }

  test('a host instead of a network is refused at its field; the likely reading is one click', async () => {
    const { saved } = shown()
    await fill('Name', 'process')
    await fill('Network', '10.20.40.130/25')
    await press('Save')
    expect(saved).not.toHaveBeenCalled()
    expect(noteOf('Network')).toContain('10.20.40.128/25')
    expect(field('Network').value).toBe('10.20.40.130/25')
    expect(await seriousIn(screen.getByRole('dialog'))).toEqual([])
    await press('Use 10.20.40.128/25')
    await press('Save')
    expect(saved).toHaveBeenCalledWith(
      expect.objectContaining({
        name: 'process',
        cidr: '10.20.40.128/25',
        gateway: null,
        vlan: null,
        school: 'static',
      }),
    )
  })

  test('what is not a VLAN number is told as it was typed', async () => {
    const { saved } = shown(sampleNetwork())
    await fill('VLAN', 'forty')
    await press('Save')
    expect(noteOf('VLAN')).toMatch(/number/)
    expect(saved).not.toHaveBeenCalled()
  })

  test('where addresses live is taken by its words, with what follows from it beside it', async () => {
    const { saved, closed } = shown(sampleNetwork())
    const [, ...others] = screen.getAllByRole('radio')
    await userEvent.click(others[0] as HTMLElement)
    await press('Save')
    expect(saved.mock.calls[0]?.[0]).not.toMatchObject({ school: 'static' })
    expect(closed).toHaveBeenCalledTimes(1)
  })

  test('what the server refuses stands at the field, and nothing closes', async () => {
    const taken = { what: 'Another network has this block.', where: 'cidr', expected: 'a free block', found: '' }
    const closed = jest.fn()
    const save = () => Promise.reject(new ProblemError(422, [taken]))
    drawn(<NetworkDialog network={sampleNetwork()} onSave={save} onRemove={nothing} onClose={closed} />)
    await press('Save')
    await waitFor(() => expect(noteOf('Network')).toContain('Another network has this block.'))
    expect(closed).not.toHaveBeenCalled()
  })
})

describe('a line', () => {
  test('what is usual on a medium comes with it, as long as the line is new', async () => {
    const saved = jest.fn((_: unknown) => Promise.resolve())
    drawn(<LineDialog line={undefined} onSave={saved} onRemove={nothing} onClose={nothing} />)
    const numbering = screen.getByRole('combobox', { name: 'Numbering' }).textContent
    await take('Electrical kind', /[Tt]oken/)
    expect(screen.getByRole('combobox', { name: 'Numbering' }).textContent).not.toBe(numbering)
    await fill('Name', 'Trunk')
    await press('Save')
    expect(saved).toHaveBeenCalledWith(expect.objectContaining({ name: 'Trunk', medium: 'token-bus' }))
  })

  test('of one that stands, another medium changes nothing else', async () => {
    const saved = jest.fn((_: unknown) => Promise.resolve())
    drawn(<LineDialog line={sampleLine()} onSave={saved} onRemove={nothing} onClose={nothing} />)
    await take('Electrical kind', /[Tt]oken/)
    await press('Save')
    expect(saved).toHaveBeenCalledWith(
      expect.objectContaining({ medium: 'token-bus', family: 'decimal-1-247', settings: '9600 8N1' }),
    )
  })

  test('settings that nobody can read are told at their field, with the likely reading; a bus has none to read', async () => {
    drawn(<LineDialog line={undefined} onSave={jest.fn()} onRemove={nothing} onClose={nothing} />)
    await fill('Settings in short', '9601 8N1')
    expect(noteOf('Settings in short')).toContain('9601 bit/s is nearly 9600')
    await press('Use 9600 8N1')
    expect(screen.getByLabelText<HTMLInputElement>('Settings in short').value).toBe('9600 8N1')
    expect(screen.queryByRole('alert')).toBeNull()
    await take('Electrical kind', /[Tt]oken/)
    await fill('Settings in short', 'as the maker says')
    expect(screen.queryByRole('alert')).toBeNull()
  })

  test('a line without a name is not saved', async () => {
    const saved = jest.fn()
    drawn(<LineDialog line={undefined} onSave={saved} onRemove={nothing} onClose={nothing} />)
    await press('Save')
    expect(noteOf('Name')).toMatch(/blank/)
    expect(saved).not.toHaveBeenCalled()
  })
})

describe('a device added by hand', () => {
  const process = '6f1c2b1e-8f5e-4b8e-9f5b-0d8f0f6a1b11'
  const plc = '6f1c2b1e-8f5e-4b8e-9f5b-0d8f0f6a1b12'
  const job = sampleJob({
    networks: [sampleNetwork({ id: process })],
    devices: [
      sampleDevice('PLC-1', null, {
        id: plc,
        kind: 'controller',
        ports: [samplePort('10.20.40.10', { networkId: process })],
      }),
    ],
  })
  const shown = () => {
    const added: Record<string, unknown>[] = []
    const onAdd = (fields: unknown) => {
      added.push(fields as Record<string, unknown>)
      return Promise.resolve()
    }
    drawn(<AddDevice job={job} onAdd={onAdd} onClose={nothing} />, { job })
    return added
  }

  test('its tag is enough; the form stays for the next one and keeps kind and network', async () => {
    const added = shown()
    expect(document.activeElement).toBe(field('Tag'))
    await userEvent.keyboard('EM-1')
    await take('Kind', 'Drive by keypad')
    await press('Add')
    expect(added[0]).toMatchObject({
      tag: 'EM-1',
      unitId: 1,
      port: { networkId: process, address: null, tcpPort: 502 },
    })
    await waitFor(() => expect(field('Tag').value).toBe(''))
    expect(document.activeElement).toBe(field('Tag'))
    expect(screen.getByRole('combobox', { name: 'Kind' }).textContent).toBe('Drive by keypad')
    expect(screen.getByRole('status').textContent).toBe('Added: EM-1. Next one?')
  })

  test('each field that cannot be used says so, with what was typed still in it', async () => {
    const added = shown()
    await fill('Unit id', '300')
    await fill('Planned address', '10.20.40.300')
    await fill('TCP port', 'http')
    await press('Add')
    expect(added).toEqual([])
    expect(noteOf('Tag')).toMatch(/blank/)
    for (const [label, typed] of [
      ['Unit id', '300'],
      ['Planned address', '10.20.40.300'],
      ['TCP port', 'http'],
    ] as const) {
      expect(field(label).getAttribute('aria-invalid')).toBe('true')
      expect(field(label).value).toBe(typed)
    }
  })

  test('a free address is proposed with its reasons, and taken by one press', async () => {
    const added = shown()
    const propose = screen.getByRole('button', { name: /^Propose a free address: / })
    const address = propose.textContent?.split(': ')[1] ?? ''
    await userEvent.click(propose)
    expect(field('Planned address').value).toBe(address)
    await fill('Tag', 'EM-2')
    await press('Add')
    expect(added[0]).toMatchObject({ port: { address, gateway: '10.20.40.1' } })
  })

  test('behind another one it has no port of its own', async () => {
    const added = shown()
    await fill('Tag', 'FM-1')
    await take('Behind', 'PLC-1')
    expect(screen.queryByLabelText('Planned address')).toBeNull()
    await press('Add')
    expect(added[0]).toMatchObject({ tag: 'FM-1', behindId: plc, port: null })
  })
})

test('a form above the page is named and reads well', async () => {
  drawn(
    <NetworkDialog network={sampleNetwork()} onSave={() => Promise.resolve()} onRemove={nothing} onClose={nothing} />,
  )
  const dialog = screen.getByRole('dialog', { name: 'Network process' })
  expect(within(dialog).getByText('As its owner gave it. Ask, when in doubt.')).toBeTruthy()
  expect(await seriousIn(dialog)).toEqual([])
})
