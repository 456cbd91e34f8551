import bwipjs from 'bwip-js/node'
import { PNG } from 'pngjs'
import { greyOf, readCodes, readingsOf, turned, type Code, type Grey } from '.'

/** Labels are drawn by a library of their own, and read by another. */
async function drawn(bcid: string, text: string, scale = 3): Promise<Grey> {
  const height = bcid === 'code128' || bcid === 'code39' ? { height: 12 } : {}
  const png = PNG.sync.read(
    await bwipjs.toBuffer({ bcid, text, scale, padding: 8, backgroundcolor: 'FFFFFF', ...height }),
  )
  return greyOf(png.width, png.height, new Uint8ClampedArray(png.data))
}

/** Codes one below the other on white, as on a label. */
function label(parts: readonly Grey[], gap = 30): Grey {
  const width = Math.max(...parts.map((part) => part.width)) + 40
  const height = parts.reduce((sum, part) => sum + part.height + gap, gap)
  const data = new Uint8ClampedArray(width * height).fill(255)
  let top = gap
  for (const part of parts) {
    for (let y = 0; y < part.height; y += 1)
      data.set(part.data.subarray(y * part.width, (y + 1) * part.width), (top + y) * width + 20)
    top += part.height + gap
  }
  return { width, height, data }
}

/** As by a camera that is not quite in focus: each point is the mean of its surroundings. */
function blurred(image: Grey, reach: number): Grey {
  const data = new Uint8ClampedArray(image.data.length)
  for (let y = 0; y < image.height; y += 1)
    for (let x = 0; x < image.width; x += 1) {
      let [sum, count] = [0, 0]
      for (let dy = -reach; dy <= reach; dy += 1)
        for (let dx = -reach; dx <= reach; dx += 1) {
          const [fromX, fromY] = [x + dx, y + dy]
          if (fromX < 0 || fromY < 0 || fromX >= image.width || fromY >= image.height) continue
          sum += image.data[fromY * image.width + fromX] as number
          count += 1
        }
      data[y * image.width + x] = sum / count
    }
  return { ...image, data }
}

const texts = (codes: readonly Code[]) => codes.map(({ format, text }) => `${format}: ${text}`).sort()

describe('codes read off a picture of a label', () => {
  test.each([
    ['code128', 'S4 7C11', 'Code 128'],
    ['code39', '1PVD-110-4-E', 'Code 39'],
    ['datamatrix', 'S/N: S4 7C11; MAC: 02:5E:0B:10:7C:11', 'Data Matrix'],
    ['qrcode', 'https://label.invalid/?sn=S47C11&mac=025E0B107C11', 'QR'],
  ])('%s', async (bcid, text, format) => {
    expect(texts(readCodes(label([await drawn(bcid, text)])))).toEqual([`${format}: ${text}`])
  })

  test('all codes of one label, two of them hardware addresses', async () => {
    const image = label([
      await drawn('code128', '23S025E0B107C11'),
      await drawn('code128', '23S025E0B107C12'),
      await drawn('code39', 'S47C11'),
      await drawn('qrcode', 'P/N: VD-110-4-E'),
    ])
    expect(texts(readCodes(image))).toEqual([
      'Code 128: 23S025E0B107C11',
      'Code 128: 23S025E0B107C12',
      'Code 39: S47C11',
      'QR: P/N: VD-110-4-E',
    ])
  })

  test('a picture is turned point by point: each shows what lies where the turn comes from', () => {
    const image: Grey = {
      width: 37,
      height: 23,
      data: Uint8ClampedArray.from({ length: 851 }, (_, n) => (n * 97) % 250),
    }
    for (let degrees = 1; degrees < 360; degrees += 1) {
      const { width, height, data } = turned(image, degrees)
      const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
      const meant = Uint8ClampedArray.from({ length: width * height }, (_, n) => {
        const [dx, dy] = [(n % width) - width / 2, Math.floor(n / width) - height / 2]
        const [x, y] = [Math.floor(dx * cos - dy * sin + 18.5), Math.floor(dx * sin + dy * cos + 11.5)]
        return x >= 0 && y >= 0 && x < 37 && y < 23 ? (image.data[y * 37 + x] ?? 0) : 255
      })
      const other = data.filter((light, n) => light !== meant[n]).length
      // What falls on an edge by a hair may go either way.
      expect({ degrees, other: other > (degrees % 90 === 0 ? width + height : 2) }).toEqual({ degrees, other: false })
    }
  })

  test.each([90, 180, 12, 40])('turned by %i degrees', async (degrees) => {
    const image = label([await drawn('code128', 'VD-110-4-E'), await drawn('datamatrix', '1PVD-110-4-E', 5)])
    expect(texts(readCodes(turned(image, degrees)))).toEqual(['Code 128: VD-110-4-E', 'Data Matrix: 1PVD-110-4-E'])
  })

  test('a little out of focus', async () => {
    const image = label([await drawn('code128', 'VD-110-4-E', 4), await drawn('qrcode', 'S/N: 4711', 5)])
    expect(texts(readCodes(blurred(image, 1)))).toEqual(['Code 128: VD-110-4-E', 'QR: S/N: 4711'])
  })

  test('nothing is read where nothing is: white, noise, stripes that are no code', () => {
    const noise = (n: number) => ((n * 2_654_435_761) >>> 0) % 256
    const made = (at: (x: number, y: number) => number): Grey => ({
      width: 160,
      height: 100,
      data: Uint8ClampedArray.from({ length: 16_000 }, (_, n) => at(n % 160, Math.floor(n / 160))),
    })
    expect(readCodes(made(() => 255))).toEqual([])
    expect(readCodes(made((x, y) => noise(x + 160 * y)))).toEqual([])
    expect(readCodes(made((x) => (x % 12 < 6 ? 0 : 255)))).toEqual([])
  })

  test('out of focus for good it reads nothing rather than something wrong', async () => {
    const image = label([await drawn('code128', 'VD-110-4-E', 2)])
    expect(readCodes(blurred(image, 4))).toEqual([])
  })

  test('it ends when its time is over', async () => {
    const image = label([await drawn('code128', 'VD-110-4-E')])
    let asked = 0
    expect(readCodes(image, () => (asked += 1) > 0)).toEqual([])
    expect(asked).toBeLessThan(5)
  })
})

describe('what a code is taken for', () => {
  const plan = { orderCode: 'VD-110-4-E', serialNumber: '' }
  test.each<[string, string, string | undefined, boolean]>([
    ['23S025E0B107C11', '02:5E:0B:10:7C:11', 'mac', true],
    ['02:5e:0b:10:7c:11', '02:5E:0B:10:7C:11', 'mac', true],
    ['1PXY-9', 'XY-9', 'order-code', true],
    ['S47C11', '47C11', 'serial-number', true],
    ['vd 110 4 e', 'vd 110 4 e', 'order-code', true],
    ['RH-8D2A4Q-C', 'RH-8D2A4Q-C', 'order-code', false],
    ['47110815', '47110815', 'serial-number', false],
    ['123456789012', '123456789012', 'serial-number', false],
    ['made on a monday', 'made on a monday', undefined, false],
  ])('%s', (text, value, field, sure) => {
    expect(readingsOf(text, plan)).toEqual([{ text: value, field, sure }])
  })

  test('a code with several values is taken apart by the words before them', () => {
    expect(readingsOf('P/N: VD-110-4-E; S/N: S4 7C11; MAC=025e.0b10.7c11; UPS code: 4711', plan)).toEqual([
      { text: 'VD-110-4-E', field: 'order-code', sure: true },
      { text: 'S4 7C11', field: 'serial-number', sure: true },
      { text: '02:5E:0B:10:7C:11', field: 'mac', sure: true },
      { text: '4711', field: 'unit-code', sure: true },
    ])
    expect(readingsOf('https://label.invalid/x?sn=S4%207C11&lang=en', plan)).toEqual([
      { text: 'S4 7C11', field: 'serial-number', sure: true },
    ])
  })

  test('a hardware address that is none is not taken for one', () => {
    expect(readingsOf('MAC: 02:5E:0B:10:7C', plan)).toEqual([{ text: '02:5E:0B:10:7C', field: undefined, sure: false }])
    expect(readingsOf('23S015E0B107C11', plan)[0]?.field).not.toBe('mac')
  })
})
