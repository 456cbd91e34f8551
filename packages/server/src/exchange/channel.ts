import type { SerialSettings } from '@calm/core/serial'
import { modbusRtu, type RtuAsk } from './modbusRtu'
import { modbusTcp, type TcpAsk } from './modbusTcp'
import type { Protocol } from './protocol'
import { serialTransport } from './serialTransport'
import { tcpTransport } from './tcpTransport'
import type { OpenTransport } from './transport'

/** Where something is asked, over what, and how: everything that asks one channel shares it by its key. */
export interface Channel<A> {
  readonly key: string
  readonly open: OpenTransport
  readonly protocol: () => Protocol<A>
}

/** Modbus TCP at an address. */
export const tcpChannel = ({ host, port }: { readonly host: string; readonly port: number }): Channel<TcpAsk> => ({
  key: `tcp ${host}:${port}`,
  open: tcpTransport(host, port),
  protocol: () => modbusTcp(),
})

/** Modbus RTU on the line that is plugged into a serial port. */
export const rtuChannel = (path: string, settings: SerialSettings): Channel<RtuAsk> => ({
  key: `rtu ${path} ${JSON.stringify(settings)}`,
  open: serialTransport(path, settings),
  protocol: () => modbusRtu(settings),
})
