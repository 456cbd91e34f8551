import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'

const derive = promisify<string | Buffer, Buffer, number, Buffer>(scrypt)
const KEY_BYTES = 32

/** `salt:key` in hex, by scrypt. The passcode itself is kept nowhere. */
export async function hashPasscode(passcode: string): Promise<string> {
  const salt = randomBytes(16)
  const key = await derive(passcode, salt, KEY_BYTES)
  return `${salt.toString('hex')}:${key.toString('hex')}`
}

export async function passcodeFits(passcode: string, stored: string): Promise<boolean> {
  const [salt = '', key = ''] = stored.split(':')
  const expected = Buffer.from(key, 'hex')
  const found = await derive(passcode, Buffer.from(salt, 'hex'), KEY_BYTES)
  return expected.length === found.length && timingSafeEqual(expected, found)
}
