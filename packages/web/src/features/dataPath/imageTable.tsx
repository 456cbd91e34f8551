import {
  addressOf,
  piecesOf,
  piecesText,
  placeText,
  type Image,
  type MappedChannel,
  type WordCount,
} from '@calm/core/cyclic'
import { DataTable, type TableColumn } from '../../ui'

/** One direction of an image: every value with its place, its address, and how to rebuild it where it straddles words. */
export function ImageTable({ side, image, count }: { side: 'inputs' | 'outputs'; image: Image; count: WordCount }) {
  const columns: readonly TableColumn<MappedChannel>[] = [
    { id: 'module', head: 'Module', cell: ({ module, slot }) => `${slot + 1} ${module}`, width: 120 },
    { id: 'name', head: 'Value', cell: ({ name }) => name, width: 90 },
    { id: 'place', head: 'Place', cell: (channel) => placeText(channel), width: 240 },
    {
      id: 'address',
      head: 'Address',
      cell: (channel) => (
        <span className="font-typed">{addressOf(channel, side === 'inputs' ? 'input' : 'output', count)}</span>
      ),
      width: 110,
    },
    {
      id: 'rebuild',
      head: 'Straddles words',
      cell: (channel) =>
        channel.straddles && (
          <span className="font-typed text-note text-odds">{piecesText(piecesOf(channel, 'low'))}</span>
        ),
      width: 260,
    },
  ]
  if (image.channels.length === 0) return <p className="note">No {side}.</p>
  return (
    <div>
      <h2 className="font-heavy capitalize">{side}</h2>
      <DataTable
        name={`image-${side}`}
        caption={`Image of ${side}`}
        columns={columns}
        rows={image.channels}
        keyOf={({ slot, name, byte, bit }) => `${slot} ${name} ${byte} ${bit}`}
      />
    </div>
  )
}
