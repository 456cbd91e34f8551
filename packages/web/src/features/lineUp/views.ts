/** The line-up can be looked at in several ways. */
export type LineUpView = 'table' | 'picture' | 'findings' | 'asked'

export const lineUpViews: readonly { readonly id: LineUpView; readonly name: string }[] = [
  { id: 'table', name: 'Table' },
  { id: 'picture', name: 'Picture' },
  { id: 'findings', name: 'Findings' },
  { id: 'asked', name: 'Asked' },
]

export const viewOf = (text: string | null): LineUpView => lineUpViews.find((view) => view.id === text)?.id ?? 'table'
