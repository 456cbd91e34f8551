import { kitOf, kitParts, PASSWORD_HOLDER, passwordsOf, type KitPart } from '@calm/core/kit'
import { Printer } from 'lucide-react'
import { Button, Checkbox, Problems } from '../../../ui'
import type { ViewProps } from '../viewProps'
import { Holder } from './holder'

/** What to take along, before leaving for the site: computed from the job, ticked on the phone, printed where paper is wanted. */
export function KitView({ job, record, acts }: ViewProps) {
  const items = kitOf(job, record)
  const passwords = passwordsOf(job, record)
  const { packed } = record.settings
  const done = items.filter(({ id }) => packed.includes(id)).length
  const pack = (id: string, isIn: boolean) =>
    void acts
      .saveSettings(record.version, {
        ...record.settings,
        // A tick of a line that is no more goes with it.
        packed: [
          ...packed.filter((each) => each !== id && items.some((item) => item.id === each)),
          ...(isIn ? [id] : []),
        ],
      })
      .catch(() => undefined)
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 pt-4 pb-8 max-phone:px-3 print:overflow-visible print:p-0">
      <p className="hidden font-heavy print:block">
        {job.name}
        {job.place !== '' && `, ${job.place}`}
        {job.mode === 'bench' && ' (bench: a rehearsal)'}
      </p>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2>What to take along</h2>
        <p className="note" role="status">
          {done} of {items.length} packed
        </p>
        <Button className="print:hidden" look="plain" onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print the list
        </Button>
      </div>
      <p className="max-w-[72ch] note">
        Computed from the devices that are walked. Sizes and voltages that no plan has are as marked on the device.
      </p>
      <Problems reason={acts.of('order').problem} />
      <div className="mt-3 grid grid-cols-2 gap-x-9 gap-y-5 max-laptop:grid-cols-1">
        {(Object.keys(kitParts) as KitPart[]).map((part) => {
          const own = items.filter((item) => item.part === part)
          return own.length === 0 ? null : (
            <section key={part} aria-label={kitParts[part]} className="break-inside-avoid">
              <h3 className="text-lead font-heavy">{kitParts[part]}</h3>
              <ul>
                {own.map(({ id, what, whom }) => (
                  <li key={id} className="border-t border-rule py-2">
                    <Checkbox
                      className="w-full items-start"
                      label={what}
                      checked={packed.includes(id)}
                      onChange={(isIn) => pack(id, isIn)}
                    >
                      {what}
                      {whom.length > 0 && <span className="block note">{whom.join(', ')}</span>}
                    </Checkbox>
                  </li>
                ))}
              </ul>
            </section>
          )
        })}
      </div>
      {items.length === 0 && <p className="mt-3">No device is walked: nothing is needed yet.</p>}
      {passwords.length > 0 && (
        <section aria-label="Passwords" className="mt-6 break-inside-avoid">
          <h3 className="text-lead font-heavy">Who holds the password</h3>
          <p className="note">The name of who has it, or where it lies. Never the password.</p>
          <ul className="grid grid-cols-2 gap-x-9 max-laptop:grid-cols-1">
            {passwords.map((password) => (
              <Holder
                key={`${password.device.id} ${password.holder}`}
                tag={password.device.tag}
                holder={password.holder}
                onSay={(text) =>
                  acts.addFact({
                    deviceId: password.device.id,
                    setting: PASSWORD_HOLDER,
                    standing: 'found',
                    text,
                    how: 'typed',
                  })
                }
              />
            ))}
          </ul>
          <Problems reason={acts.of('facts').problem} />
        </section>
      )}
    </div>
  )
}
