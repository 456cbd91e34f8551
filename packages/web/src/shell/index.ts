export { JobShell, useStage, type StageContext } from './jobShell'
export { isTyping, usePageKeys } from './keys'
export { PageProblem, PageProblemText } from './pageProblem'
export { applyTheme, storedTheme } from './theme'
