import type { End, TermContext, TermFix, TermId } from './term'

/**
 * The usual two ways out: take over what the other end has. The controller's end comes first, because changing it
 * does not need a restart of the device.
 */
export function takeOver(
  id: TermId,
  name: string,
  context: TermContext,
  shown: Readonly<Record<End, string>>,
): readonly TermFix[] {
  const fix = (end: End, from: End): readonly TermFix[] => {
    const entry = context.terms[id]?.[from]
    if (!entry) return []
    return [
      {
        end,
        text: entry.text,
        notation: entry.notation,
        label: `Set ${context.tags[end]} to ${shown[from]}`,
        sideEffect:
          end === 'controller'
            ? `Change it in the program of ${context.tags.controller} too.`
            : `Change ${name.toLowerCase()} in ${context.tags.device} too; it may need a restart.`,
      },
    ]
  }
  return [...fix('controller', 'device'), ...fix('device', 'controller')]
}
