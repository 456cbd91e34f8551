import type { Question } from '@calm/core/explain'
import { wrap, type Remote } from 'comlink'
import { useEffect, useState } from 'react'
import type { Explained, ExplainApi } from './explain.worker'

let shared: Remote<ExplainApi> | undefined

function explainWorker(): Remote<ExplainApi> {
  shared ??= wrap<ExplainApi>(new Worker(new URL('./explain.worker.ts', import.meta.url), { type: 'module' }))
  return shared
}

/** Answers to questions that are looked at; `undefined` until those to the present ones are there. */
export function useExplained(questions: readonly Question[]): readonly Explained[] | undefined {
  const [known, setKnown] = useState<{ readonly of: readonly Question[]; readonly is: readonly Explained[] }>()
  useEffect(() => {
    let current = true
    void explainWorker()
      .explain(questions)
      .then((is) => {
        if (current) setKnown({ of: questions, is })
      })
    return () => {
      current = false
    }
  }, [questions])
  return known?.of === questions ? known.is : undefined
}
