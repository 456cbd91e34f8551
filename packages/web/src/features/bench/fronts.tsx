import type { FrontView } from '@calm/contract/live'
import { Switch } from 'radix-ui'
import { useId, useRef } from 'react'
import { useFrontActs, useFronts } from '../../api'
import { Choice, Problems } from '../../ui'

/** Stand-ins with a front: lamps in words, keys, buttons that are held, switches, plugs, power. And the bench laptop. */
export function Fronts() {
  const fronts = useFronts(true)
  const acts = useFrontActs()
  const laptop = fronts.data?.laptop
  return (
    <section className="fronts" aria-label="Fronts">
      <div className="fronts-head">
        <h2>Fronts</h2>
        {laptop && (
          <>
            <p>
              Bench laptop at{' '}
              <b className="typed">
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
            <button type="button" className="quiet" onClick={acts.deliver}>
              All as delivered
            </button>
          </>
        )}
      </div>
      <Problems reason={fronts.error ?? acts.problem} />
      <ul>
        {fronts.data?.fronts.map((front) => (
          <Front key={front.tag} front={front} acts={acts} />
        ))}
      </ul>
    </section>
  )
}

type Acts = ReturnType<typeof useFrontActs>

function Front({ front, acts }: { front: FrontView; acts: Acts }) {
  const { tag } = front
  return (
    <li className="front" aria-label={`Front of ${tag}`}>
      <div>
        <h3>{tag}</h3>
        <p className="note">{front.what}</p>
        {front.label.map((line) => (
          <p key={line} className="note typed">
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
      <ul className="front-lamps">
        {front.lamps.map(({ lamp, words }) => (
          <li key={lamp}>
            <b>{lamp}</b> {words}
          </li>
        ))}
      </ul>
      <div className="front-keys">
        {front.display !== null && <p className="display typed">{front.display}</p>}
        {front.switches.map((each) => (
          <Choice
            key={each.id}
            label={`${each.label} of ${tag}`}
            value={each.value}
            choices={each.options.map((option) => ({ value: option, label: option }))}
            onChange={(value) => acts.act(tag, { act: 'turn', id: each.id, value })}
          />
        ))}
        {front.keys.map((key) => (
          <button
            key={key.id}
            type="button"
            className="quiet"
            onClick={() => acts.act(tag, { act: 'press', id: key.id, seconds: 0 })}
          >
            {key.label}
          </button>
        ))}
        {front.buttons.map((button) => (
          <HoldButton
            key={button.id}
            button={button}
            onPress={(seconds) => acts.act(tag, { act: 'press', id: button.id, seconds })}
          />
        ))}
      </div>
    </li>
  )
}

function FrontSwitch({ label, on, onTurn }: { label: string; on: boolean; onTurn: (on: boolean) => void }) {
  const id = useId()
  return (
    <div className="front-flag">
      <Switch.Root id={id} className="switch" checked={on} onCheckedChange={onTurn} aria-label={label}>
        <Switch.Thumb />
      </Switch.Root>
      <label htmlFor={id}>{label}</label>
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
    <button
      type="button"
      className="quiet"
      onPointerDown={down}
      onPointerUp={up}
      onPointerLeave={up}
      onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && down()}
      onKeyUp={(event) => (event.key === ' ' || event.key === 'Enter') && up()}
    >
      {button.label}
      {button.holdSeconds > 0 && <span className="note"> hold {button.holdSeconds} s</span>}
    </button>
  )
}
