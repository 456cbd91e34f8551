import { explainPoints, tellApart, type PointAnswer, type Question, type TellingReading } from '@calm/core/explain'
import { expose } from 'comlink'

/** What one point of several comes to, with what would tell equal explanations apart. */
export interface Explained {
  readonly answer: PointAnswer
  readonly telling: TellingReading | undefined
}

/** Why numbers are wrong, off the page's own thread. */
const api = {
  explain: (questions: readonly Question[]): readonly Explained[] =>
    explainPoints(questions).map((answer, k) => {
      const question = questions[k]
      return { answer, telling: question && tellApart(question, answer.equals) }
    }),
}

export type ExplainApi = typeof api
expose(api)
