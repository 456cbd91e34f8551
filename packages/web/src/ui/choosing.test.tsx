/** @jest-environment jsdom */
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { likeABrowser, seriousIn } from '../fixtures'
import { Checkbox, Choice, Radios, Switch, Toggles } from '.'

beforeAll(likeABrowser)
afterEach(cleanup)

describe('a choice among a few', () => {
  const choices = [
    { value: '', label: 'none yet' },
    { value: 'a', label: 'Process' },
    { value: 'b', label: 'Office' },
  ]
  function Network({ taken }: { taken: string[] }) {
    const [value, setValue] = useState('a')
    const take = (next: string) => {
      taken.push(next)
      setValue(next)
    }
    return <Choice label="Network" value={value} choices={choices} onChange={take} />
  }

  test('is labelled, shows what stands, and says which was taken', async () => {
    const taken: string[] = []
    const { container } = render(<Network taken={taken} />)
    const list = screen.getByRole('combobox', { name: 'Network' })
    expect(list.textContent).toBe('Process')
    expect(await seriousIn(container)).toEqual([])
    await userEvent.click(list)
    await userEvent.click(screen.getByRole('option', { name: 'Office' }))
    expect(taken).toEqual(['b'])
    expect(list.textContent).toBe('Office')
  })

  test('by keys: Enter opens it, an arrow goes on, Enter takes it', async () => {
    const taken: string[] = []
    render(<Network taken={taken} />)
    await userEvent.tab()
    await userEvent.keyboard('{Enter}')
    expect(screen.getByRole('option', { name: 'Process' }).getAttribute('aria-selected')).toBe('true')
    await userEvent.keyboard('{ArrowDown}{Enter}')
    expect(taken).toEqual(['b'])
    expect(screen.queryByRole('option')).toBeNull()
  })

  test('Escape leaves it as it was', async () => {
    const taken: string[] = []
    render(<Network taken={taken} />)
    await userEvent.tab()
    await userEvent.keyboard('{Enter}{ArrowUp}{Escape}')
    expect(taken).toEqual([])
    expect(screen.getByRole('combobox').textContent).toBe('Process')
  })

  test('nothing at all is a choice too', async () => {
    const taken: string[] = []
    render(<Network taken={taken} />)
    await userEvent.click(screen.getByRole('combobox'))
    await userEvent.click(screen.getByRole('option', { name: 'none yet' }))
    expect(taken).toEqual([''])
    expect(screen.getByRole('combobox').textContent).toBe('none yet')
  })

  test('what is wrong with it is told to whoever cannot see it', () => {
    const trouble = { what: 'No such network.', expected: 'one of the job' }
    render(<Choice label="Network" value="a" choices={choices} onChange={() => undefined} trouble={trouble} />)
    const list = screen.getByRole('combobox')
    expect(list.getAttribute('aria-invalid')).toBe('true')
    expect(document.getElementById(list.getAttribute('aria-describedby') ?? '')?.textContent).toContain(
      'No such network.',
    )
  })
})

describe('a box to tick', () => {
  test('is ticked by its words, and by the space bar', async () => {
    const said: boolean[] = []
    const { container } = render(<Checkbox label="master" checked={false} onChange={(on) => said.push(on)} />)
    await userEvent.click(screen.getByText('master'))
    screen.getByRole('checkbox').focus()
    await userEvent.keyboard(' ')
    expect(said).toEqual([true, true])
    expect(await seriousIn(container)).toEqual([])
  })

  test('that stands in a table is named without words beside it', () => {
    render(<Checkbox hideLabel label="Walk PD-101" checked onChange={() => undefined} />)
    expect(screen.getByRole('checkbox', { name: 'Walk PD-101' }).getAttribute('aria-checked')).toBe('true')
    expect(screen.queryByText('Walk PD-101')).toBeNull()
  })
})

describe('alternatives with their consequences', () => {
  const schools = [
    { value: 'static', label: 'In the device', say: 'It stays when the server is away.' },
    { value: 'lease', label: 'In the server', say: 'A new device gets it by its hardware address.' },
  ]
  function Where({ said }: { said: string[] }) {
    const [value, setValue] = useState('static')
    const take = (next: string) => {
      said.push(next)
      setValue(next)
    }
    return <Radios label="Where addresses live" value={value} choices={schools} onChange={take} />
  }

  test('each is told with what follows from it', async () => {
    const { container } = render(<Where said={[]} />)
    const lease = screen.getByRole('radio', { name: 'In the server' })
    expect(document.getElementById(lease.getAttribute('aria-describedby') ?? '')?.textContent).toBe(
      'A new device gets it by its hardware address.',
    )
    expect(screen.getByRole('radiogroup', { name: 'Where addresses live' })).toBeTruthy()
    expect(await seriousIn(container)).toEqual([])
  })

  test('its words take it', async () => {
    const said: string[] = []
    render(<Where said={said} />)
    await userEvent.click(screen.getByText('In the server'))
    expect(said).toEqual(['lease'])
    expect(screen.getByRole('radio', { name: 'In the server' }).getAttribute('aria-checked')).toBe('true')
  })
})

test('a switch says what it would become, and belongs to one thing where several look alike', async () => {
  const turned: boolean[] = []
  const { container } = render(
    <Switch label="Silent, EM-501" on={false} onTurn={(on) => turned.push(on)}>
      Silent
    </Switch>,
  )
  await userEvent.click(screen.getByRole('switch', { name: 'Silent, EM-501' }))
  await userEvent.click(screen.getByText('Silent'))
  expect(turned).toEqual([true, true])
  expect(await seriousIn(container)).toEqual([])
})

describe('ways to show the same thing', () => {
  const items = [
    { value: 'all', say: '16 all' },
    { value: 'at-odds', say: '5 at odds', tip: 'at odds' },
    { value: 'proven', say: '3' },
  ]
  function Sift({ shown, blank }: { shown: string[]; blank?: string }) {
    const [value, setValue] = useState('at-odds')
    const take = (next: string) => {
      shown.push(next)
      setValue(next)
    }
    return <Toggles label="Show only" value={value} items={items} onChange={take} {...(blank && { blank })} />
  }

  test('one of them is on, and another takes its place', async () => {
    const shown: string[] = []
    const { container } = render(<Sift shown={shown} />)
    expect(screen.getByRole('radio', { name: '5 at odds' }).getAttribute('aria-checked')).toBe('true')
    await userEvent.click(screen.getByRole('radio', { name: '3' }))
    expect(shown).toEqual(['proven'])
    expect(await seriousIn(container)).toEqual([])
  })

  test('pressing the one that is on does nothing, or gives the blank where there is one', async () => {
    const shown: string[] = []
    const { rerender } = render(<Sift shown={shown} />)
    await userEvent.click(screen.getByRole('radio', { name: '5 at odds' }))
    expect(shown).toEqual([])
    rerender(<Sift shown={shown} blank="all" />)
    await userEvent.click(screen.getByRole('radio', { name: '5 at odds' }))
    expect(shown).toEqual(['all'])
  })

  test('Left and Right go from one to the next without taking it', async () => {
    const shown: string[] = []
    render(<Sift shown={shown} />)
    await userEvent.tab()
    expect(document.activeElement?.textContent).toBe('5 at odds')
    await userEvent.keyboard('{ArrowRight}')
    expect(document.activeElement?.textContent).toBe('3')
    expect(shown).toEqual([])
    await userEvent.keyboard(' ')
    expect(shown).toEqual(['proven'])
  })
})
