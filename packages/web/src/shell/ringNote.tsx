import { useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useStream } from '../api'
import { Button, Glyph, Toast } from '../ui'
import { usePageKeys } from './keys'

/** Rings when a wait is over, and says what was seen until somebody has read it. */
export function RingNote() {
  const { ring, hush } = useStream()
  useEffect(() => {
    if (ring) soundBell()
  }, [ring])
  const { jobId = '' } = useParams()
  const navigate = useNavigate()
  // The key of a step begins with that of its stop.
  const back = () => {
    if (!ring) return
    const stop = ring.stepKey.split(' / ')[0] ?? ''
    void navigate(`/jobs/${jobId}/first-contact?stop=${encodeURIComponent(stop)}`)
    hush()
  }
  usePageKeys(ring ? { B: back } : {})
  if (!ring) return null
  return (
    <Toast
      urgent
      glyph={<Glyph state={ring.missing ? 'at-odds' : 'proven'} size={18} />}
      action={
        <>
          <Button onClick={back}>
            Go to it <kbd>B</kbd>
          </Button>
          <Button onClick={hush}>Seen</Button>
        </>
      }
    >
      {ring.say}
    </Toast>
  )
}

/** Two short tones. Without sound, or before the page was touched, only the note stands. */
function soundBell(): void {
  try {
    const audio = new AudioContext()
    for (const [at, pitch] of [
      [0, 880],
      [0.22, 1175],
    ] as const) {
      const tone = audio.createOscillator()
      const loud = audio.createGain()
      tone.frequency.value = pitch
      loud.gain.setValueAtTime(0.2, audio.currentTime + at)
      loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.2)
      tone.connect(loud).connect(audio.destination)
      tone.start(audio.currentTime + at)
      tone.stop(audio.currentTime + at + 0.2)
    }
    setTimeout(() => void audio.close(), 800)
  } catch {
    // The note on the screen says the same.
  }
}
