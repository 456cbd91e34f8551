import { Sessions, mayChange } from './sessions'

describe('sessions', () => {
  let now = 0
  const sessions = new Sessions(() => now)
  beforeEach(() => {
    now = 0
  })
  const cookie = (token: string) => `theme=dark; calm_session=${token}; x=1`

  test('are found by their cookie among others, until they end', () => {
    const token = sessions.open('technician', 'A. Lund')
    expect(token).toMatch(/^[0-9a-f]{64}$/)
    expect(sessions.find(cookie(token))).toMatchObject({ role: 'technician', name: 'A. Lund' })
    now = 12 * 60 * 60 * 1000 - 1
    expect(sessions.find(cookie(token))).toBeDefined()
    now += 2
    expect(sessions.find(cookie(token))).toBeUndefined()
  })

  test('are not found by a part of the cookie, another name, or none', () => {
    const token = sessions.open('lead', 'A. Lund')
    for (const header of [
      undefined,
      '',
      `calm_session=${token.slice(1)}`,
      `xcalm_session=${token}`,
      `calm_session=${token}0`,
    ]) {
      expect(sessions.find(header)).toBeUndefined()
    }
  })

  test('no two have the same token', () => {
    const tokens = new Set(Array.from({ length: 200 }, () => sessions.open('viewer', 'x')))
    expect(tokens.size).toBe(200)
  })

  test('a viewer looks, the others change', () => {
    expect([mayChange('viewer'), mayChange('technician'), mayChange('lead')]).toEqual([false, true, true])
  })
})
