import {
  BarcodeFormat,
  BinaryBitmap,
  DataMatrixReader,
  DecodeHintType,
  GlobalHistogramBinarizer,
  HybridBinarizer,
  MultiFormatOneDReader,
  QRCodeReader,
  RGBLuminanceSource,
  type Reader,
  type Result,
} from '@zxing/library'
import { blanked, cutOut, turned, type Grey } from './grey'

export type CodeFormat = 'Code 128' | 'Code 39' | 'Data Matrix' | 'QR'

/** A code that was read off a picture. */
export interface Code {
  readonly format: CodeFormat
  readonly text: string
}

const formats: ReadonlyMap<BarcodeFormat, CodeFormat> = new Map([
  [BarcodeFormat.CODE_128, 'Code 128'],
  [BarcodeFormat.CODE_39, 'Code 39'],
  [BarcodeFormat.DATA_MATRIX, 'Data Matrix'],
  [BarcodeFormat.QR_CODE, 'QR'],
])

/** How a label may lie in the picture, the likeliest first, degrees. A line of bars is read from both its ends. */
const ANGLES = [0, 90, -12, 12, -24, 24, -36, 36, -45, 45] as const
/** Squares are read however they lie, most of them already as the picture is. */
const SQUARE_ANGLES: ReadonlySet<number> = new Set([0, -12, -24, 45])
/** Parts of the height in which lines of bars are looked for. */
const BANDS = [1, 4, 7, 12] as const
/** Shares of the shorter side in which a Data Matrix is looked for: it has to lie over the middle of what is looked at. */
const WINDOWS = [1, 0.5] as const
const MOST_CODES = 24
/** Without a check digit a short line of bars is read out of many a pattern: it counts when it was read twice. */
const NEEDS_TWICE: readonly CodeFormat[] = ['Code 39']
const SHORTEST = 4
const LINES: readonly CodeFormat[] = ['Code 128', 'Code 39']

/**
 * Reads the codes of a label: every one it finds, each once. The picture is looked at as it lies, then turned.
 *
 * @param isOver whether the time for it is over; what was found by then is told
 */
export function readCodes(image: Grey, isOver: () => boolean = () => false): readonly Code[] {
  // The library throws wherever there is no code, some thousand times a picture: where it did is nobody's question.
  const { stackTraceLimit } = Error
  Error.stackTraceLimit = 0
  try {
    return allCodes(image, isOver)
  } finally {
    Error.stackTraceLimit = stackTraceLimit
  }
}

function allCodes(image: Grey, isOver: () => boolean): readonly Code[] {
  const counts = new Map<string, { code: Code; times: number }>()
  const found = (result: Result): void => {
    const format = formats.get(result.getBarcodeFormat())
    const text = result.getText().trim()
    if (!format || text.length < SHORTEST) return
    const key = `${format} ${text}`
    counts.set(key, { code: { format, text }, times: (counts.get(key)?.times ?? 0) + 1 })
  }
  const known = () => [...counts.values()].filter(({ code, times }) => times > 1 || !NEEDS_TWICE.includes(code.format))
  for (const angle of ANGLES) {
    if (isOver() || known().length >= MOST_CODES) break
    const before = known()
    const lying = turned(image, angle)
    readLines(lying, found, isOver)
    if (SQUARE_ANGLES.has(angle)) readSquares(lying, found, isOver)
    // Squares are read however they lie. With its lines read, the label lies as it does.
    if (before.some(({ code: { format } }) => LINES.includes(format)) && known().length === before.length) break
  }
  return known().map(({ code }) => code)
}

function readLines(image: Grey, found: (result: Result) => void, isOver: () => boolean): void {
  const hints = new Map<DecodeHintType, unknown>([
    [DecodeHintType.POSSIBLE_FORMATS, [BarcodeFormat.CODE_128, BarcodeFormat.CODE_39]],
  ])
  const reader = new MultiFormatOneDReader(hints)
  for (const parts of BANDS) {
    const high = Math.floor(image.height / parts)
    if (high < 8) return
    for (let top = 0; top + high <= image.height; top += Math.max(1, Math.floor(high / 2))) {
      if (isOver()) return
      const band = cutOut(image, 0, top, image.width, high)
      // Two side by side: what was read is made white, and what is left is read.
      for (let side = 0; side < 3; side += 1) {
        const result = read(reader, band, hints, parts === 1 ? BOTH : HYBRID)
        if (!result) break
        found(result)
        const across = result.getResultPoints().map((point) => point.getX())
        blanked(band, Math.min(...across) - 4, 0, Math.max(...across) + 4, band.height)
      }
    }
  }
}

function readSquares(image: Grey, found: (result: Result) => void, isOver: () => boolean): void {
  const hints = new Map<DecodeHintType, unknown>([[DecodeHintType.TRY_HARDER, true]])
  // A QR code is found wherever it lies; what was read is made white, and what is left is read.
  const rest = cutOut(image, 0, 0, image.width, image.height)
  for (let count = 0; count < 3 && !isOver(); count += 1) {
    const result = read(new QRCodeReader(), rest, hints, BOTH)
    if (!result) break
    found(result)
    const points = result.getResultPoints()
    const [across, down] = [points.map((point) => point.getX()), points.map((point) => point.getY())]
    blanked(rest, Math.min(...across) - 8, Math.min(...down) - 8, Math.max(...across) + 8, Math.max(...down) + 8)
  }
  const reader = new DataMatrixReader()
  const shorter = Math.min(image.width, image.height)
  for (const share of WINDOWS) {
    const size = Math.floor(shorter * share)
    if (size < 16) return
    const stride = Math.max(8, Math.floor(size / 3))
    for (let top = 0; top + size <= image.height; top += stride)
      for (let left = 0; left + size <= image.width; left += stride) {
        if (isOver()) return
        const result = read(reader, cutOut(image, left, top, size, size), hints, HYBRID)
        if (result) found(result)
      }
  }
}

const HYBRID = [HybridBinarizer] as const
const BOTH = [HybridBinarizer, GlobalHistogramBinarizer] as const

function read(
  reader: Reader,
  { data, width, height }: Grey,
  hints: Map<DecodeHintType, unknown>,
  binarizers: typeof HYBRID | typeof BOTH,
): Result | undefined {
  for (const Binarizer of binarizers) {
    try {
      return reader.decode(new BinaryBitmap(new Binarizer(new RGBLuminanceSource(data, width, height))), hints)
    } catch {
      // Nothing to be read: the library says so by throwing.
      reader.reset()
    }
  }
  return undefined
}
