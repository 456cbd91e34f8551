import { toDataURL } from 'qrcode'
import { useEffect, useState } from 'react'
import { useMe, useLaptop } from '../../../api'
import { Dialog } from '../../../ui'

/** The address of this page for a phone, as a code to scan. Only a server that asks for a passcode is reached by others. */
export function PhoneDialog({ onClose }: { onClose: () => void }) {
  const me = useMe()
  const laptop = useLaptop()
  const [code, setCode] = useState('')
  const outward = laptop.data?.find((entry) => !entry.loopback)?.address
  const here = window.location.hostname
  const host = here === 'localhost' || here.startsWith('127.') ? outward : here
  const address = host ? `http://${host}:${window.location.port || '80'}${window.location.pathname}` : ''
  const guarded = me.data?.guarded === true
  useEffect(() => {
    if (guarded && address) void toDataURL(address, { margin: 2, width: 260 }).then(setCode, () => setCode(''))
  }, [guarded, address])
  return (
    <Dialog title="On the phone" open onClose={onClose}>
      {guarded && code ? (
        <>
          <p>Scan it with the phone in the same network. It asks for the passcode.</p>
          <img src={code} width={260} height={260} alt={`Code for ${address}`} />
          <p className="font-typed font-medium">{address}</p>
        </>
      ) : (
        <>
          <p>This server is for this laptop only. To let a phone in, set a passcode, then start it for the network:</p>
          <p className="font-typed font-medium">npm start -- --set-passcode technician</p>
          <p className="font-typed font-medium">npm start -- --host {outward ?? 'ADDRESS'}</p>
        </>
      )}
    </Dialog>
  )
}
