import { api } from '@calm/contract/api'
import { format } from 'date-fns/format'
import { useAct, useFromFile, useMe } from '../../api'
import { Button, Glyph, Problems } from '../../ui'

interface FromFileNoteProps {
  readonly jobId: string
}

const counted = (count: number, one: string, many: string): readonly string[] =>
  count === 0 ? [] : [`${count} ${count === 1 ? one : many}`]

/** What came with the file of the job: it proves nothing here until a lead takes it over. */
export function FromFileNote({ jobId }: FromFileNoteProps) {
  const { data: came } = useFromFile(jobId)
  const me = useMe()
  const takeOver = useAct(jobId, api.takeOver)
  if (!came) return null
  const parts = [
    ...counted(came.evidenceCount, 'piece of evidence', 'pieces of evidence'),
    ...counted(came.decisionCount, 'decision', 'decisions'),
    ...counted(came.acceptanceCount, 'finding let stand', 'findings let stand'),
  ].join(', ')
  const whence = `taken in by ${came.who} on ${format(came.at, 'd MMM yyyy HH:mm')}, from the file of "${came.name}" written ${format(new Date(came.exportedAt), 'd MMM yyyy HH:mm')}`
  if (came.takenOver)
    return (
      <p className="mb-3 note">
        From a file: {parts}, {whence}. {came.takenOver.who} took it over on{' '}
        {format(came.takenOver.at, 'd MMM yyyy HH:mm')}.
      </p>
    )
  return (
    <section className="mb-3 border-l-4 border-odds-mark px-4 py-2.5" aria-label="From the file">
      <p className="flex items-center gap-1.5 font-firm text-odds">
        <Glyph state="at-odds" size={16} /> {parts} from a file: they prove nothing here
      </p>
      <p className="max-w-[70ch]">
        They were {whence}.{' '}
        {came.broken === null
          ? 'The chain of the file is whole: its log tells who saw what and when. A lead can take it over.'
          : `${came.broken} It cannot be taken over: prove it again here.`}
      </p>
      <Problems reason={takeOver.error} />
      {came.broken === null && (
        <Button
          className="mt-1.5"
          disabled={takeOver.isPending || me.data?.role !== 'lead'}
          title={me.data?.role === 'lead' ? undefined : 'Only a lead takes it over.'}
          onClick={() => takeOver.mutate({ params: { jobId } })}
        >
          Take it over
        </Button>
      )}
    </section>
  )
}
