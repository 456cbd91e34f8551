import type { FrontView } from '@calm/contract/live'
import { useRef } from 'react'
import { useFrontActs, useFronts } from '../../api'
import { Button, Choice, Problems, Switch } from '../../ui'

/**
 * Stand-ins with a front: lamps in words, keys, buttons that are held, switches, plugs, power. And the bench laptop.
 * @param tags devices of this job: their fronts come first
 */
export function Fronts({ tags }: { readonly tags: readonly string[] }) {
  const fronts = useFronts(true)
  const acts = useFrontActs()
  const laptop = fronts.data?.laptop
  const here = (fronts.data?.fronts ?? []).filter(({ tag }) => tags.includes(tag))
  const elsewhere = (fronts.data?.fronts ?? []).filter(({ tag }) => !tags.includes(tag))
  return (
    <section className="mt-7" aria-label="Fronts">
      <div className="mb-2 flex flex-wrap items-end gap-x-6 gap-y-3">
        <h2 className="text-title font-heavy">Fronts</h2>
        {laptop && (
          <>
            <p>
              Bench laptop at{' '}
              <b className="font-typed font-medium">
                {laptop.addresses.map(({ address, prefix }) => `${address}/${prefix}`).join(', ')}
              </b>
            </p>
            <Choice
              label="Its cable"
              value={laptop.cable}
              choices={[
                { value: 'switch', label: 'in the switch' },
                ...(fronts.data?.fronts ?? []).map((front) => ({
                  value: front.tag,
                  label: `straight in ${front.tag}`,
                })),
              ]}
              onChange={(cable) => acts.setLaptop({ ...laptop, cable })}
            />
            <Choice
              label="Things start"
              value={String(laptop.speed)}
              choices={[
                { value: '1', label: 'in real time' },
                { value: '5', label: '5 times faster' },
                { value: '20', label: '20 times faster' },
                { value: '100', label: '100 times faster' },
              ]}
              onChange={(speed) => acts.setLaptop({ ...laptop, speed: Number(speed) })}
            />
            <Button onClick={acts.deliver}>All as delivered</Button>
          </>
        )}
      </div>
      <Problems reason={fronts.error ?? acts.problem} />
      <ul>
        {here.map((front) => (
          <Front key={front.tag} front={front} acts={acts} />
        ))}
      </ul>
      {elsewhere.length > 0 && (
        <>
          <h3 className="mt-5 mb-2 text-lead font-heavy">Not in this job</h3>
          <ul>
            {elsewhere.map((front) => (
              <Front key={front.tag} front={front} acts={acts} />
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

type Acts = ReturnType<typeof useFrontActs>

function Front({ front, acts }: { front: FrontView; acts: Acts }) {
  const { tag } = front
  return (
    <li
      className="grid grid-cols-[210px_210px_minmax(0,1fr)_minmax(200px,300px)] gap-5 border-t border-rule py-3.5 max-laptop:grid-cols-2"
      aria-label={`Front of ${tag}`}
    >
      <div>
        <h3 className="font-heavy">{tag}</h3>
        <p className="note">{front.what}</p>
        {front.label.map((line) => (
          <p key={line} className="font-typed note font-medium">
            {line}
          </p>
        ))}
      </div>
      <div>
        <FrontSwitch
          label={`${front.breaker} on, ${tag} has power`}
          on={front.power}
          onTurn={(on) => acts.act(tag, { act: 'power', on })}
        />
        <FrontSwitch
          label={`Network plug of ${tag} in`}
          on={front.plugged}
          onTurn={(on) => acts.act(tag, { act: 'plug', on })}
        />
        {front.startsIn > 0 && <p role="status">starts, {Math.ceil(front.startsIn)} s more</p>}
        {front.page && (
          <a href={front.page} target="_blank" rel="noreferrer">
            Open its page
          </a>
        )}
        {front.console && <p className="note">Serial socket: see Console in First contact.</p>}
      </div>
      <ul>
        {front.lamps.map(({ lamp, words }) => (
          <li key={lamp}>
            <b className="font-heavy">{lamp}</b> {words}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap content-start items-end gap-2">
        {front.display !== null && (
          <p
            data-display
            className="justify-self-start rounded-sm bg-ground px-3 py-0.5 font-typed text-title font-heavy"
          >
            {front.display}
          </p>
        )}
        {front.switches
          .filter((each) => each.of === undefined)
          .map((each) => (
            <Choice
              key={each.id}
              label={each.label}
              value={each.value}
              choices={each.options.map((option) => ({ value: option, label: option }))}
              onChange={(value) => acts.act(tag, { act: 'turn', id: each.id, value })}
            />
          ))}
        {front.keys.map((key) => (
          <Button key={key.id} onClick={() => acts.act(tag, { act: 'press', id: key.id, seconds: 0 })}>
            {key.label}
          </Button>
        ))}
        {front.buttons.map((button) => (
          <HoldButton
            key={button.id}
            button={button}
            onPress={(seconds) => acts.act(tag, { act: 'press', id: button.id, seconds })}
          />
        ))}
      </div>
      <MenusBehind front={front} onTurn={(id, value) => acts.act(tag, { act: 'turn', id, value })} />
    </li>
  )
}

/** Menus of the devices behind a front, a line each: what is set in them, without a label over every field. */
function MenusBehind({ front, onTurn }: { front: FrontView; onTurn: (id: string, value: string) => void }) {
  const tags = [...new Set(front.switches.flatMap(({ of }) => of ?? []))]
  if (tags.length === 0) return null
  return (
    <ul className="col-span-full grid grid-cols-2 gap-x-8 gap-y-1.5 max-laptop:grid-cols-1">
      {tags.map((of) => (
        <li key={of} className="flex flex-wrap items-center gap-1">
          <b className="w-15 font-heavy">{of}</b>
          {front.switches
            .filter((each) => each.of === of)
            .map((each) => (
              <Choice
                key={each.id}
                label={each.label}
                hideLabel
                size="small"
                value={each.value}
                choices={each.options.map((option) => ({ value: option, label: option }))}
                onChange={(value) => onTurn(each.id, value)}
              />
            ))}
        </li>
      ))}
    </ul>
  )
}

function FrontSwitch({ label, on, onTurn }: { label: string; on: boolean; onTurn: (on: boolean) => void }) {
  return (
    <div className="py-0.75">
      <Switch label={label} on={on} onTurn={onTurn}>
        {label}
      </Switch>
    </div>
  )
}

/** A button that counts how long it is held, by mouse, finger or space bar. */
function HoldButton({ button, onPress }: { button: FrontView['buttons'][number]; onPress: (seconds: number) => void }) {
  const since = useRef<number | undefined>(undefined)
  const down = () => (since.current ??= performance.now())
  const up = () => {
    if (since.current === undefined) return
    onPress((performance.now() - since.current) / 1000)
    since.current = undefined
  }
  return (
    <Button
      onPointerDown={down}
      onPointerUp={up}
      onPointerLeave={up}
      onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && down()}
      onKeyUp={(event) => (event.key === ' ' || event.key === 'Enter') && up()}
    >
      {button.label}
      {button.holdSeconds > 0 && <span className="note"> hold {button.holdSeconds} s</span>}
    </Button>
  )
}
