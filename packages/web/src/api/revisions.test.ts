import { forgetRevisions, hearRevision, isBehind } from './revisions'

describe('how far a page knows a job', () => {
  beforeEach(() => forgetRevisions('a'))

  test('a page that fetched before the newest change is behind; one that fetched after it is not', () => {
    hearRevision('/jobs/a', '7')
    expect([isBehind('a', 7), isBehind('a', 8)]).toEqual([false, true])
  })

  test('one old part is enough: the job may be new and its walk old', () => {
    hearRevision('/jobs/a', '8')
    hearRevision('/jobs/a/walk', '6')
    expect(isBehind('a', 8)).toBe(true)
  })

  test('other jobs, and answers that say nothing, do not count', () => {
    hearRevision('/jobs/ab', '1')
    hearRevision('/jobs/a/log', null)
    hearRevision('/me', '3')
    expect(isBehind('a', 100)).toBe(false)
  })
})
