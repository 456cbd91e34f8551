import { isFromHere } from './nearby'

// RFC 1122 section 3.2.1.3 (127/8), RFC 4291 sections 2.5.3 (::1) and 2.5.5.2 (IPv4-mapped).
it.each([
  ['127.0.0.1', true],
  ['127.9.8.7', true],
  ['::1', true],
  ['::ffff:127.0.0.1', true],
  ['128.0.0.1', false],
  ['10.20.40.9', false],
  ['::ffff:10.20.40.9', false],
  ['fe80::1', false],
  [undefined, false],
])('%s is on this machine: %s', (address, here) => expect(isFromHere(address)).toBe(here))
