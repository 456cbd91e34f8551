import { greyOf, readCodes, type Code } from '@calm/core/label'
import { expose } from 'comlink'

/** What was read off a picture of a label, and the picture made small. */
export interface LabelPicture {
  readonly codes: readonly Code[]
  /** JPEG as a data link, within the signs asked for; blank where it could not be made so small. */
  readonly image: string
}

/** Points on the longer side: enough for a label that fills half the picture. */
const READ_AT_MOST = 1_400
const TIME_MS = 12_000
/** Tried one after the other until the picture is small enough. */
const KEPT_AS = [
  { side: 1_000, quality: 0.6 },
  { side: 700, quality: 0.5 },
  { side: 400, quality: 0.4 },
] as const

const api = {
  /**
   * Reads the codes of a picture off the page's own thread.
   *
   * @throws Error where the file is no picture
   */
  async read(file: Blob, mostSigns: number): Promise<LabelPicture> {
    const bitmap = await createImageBitmap(file)
    const drawn = (most: number) => {
      const scale = Math.min(1, most / Math.max(bitmap.width, bitmap.height))
      const width = Math.max(1, Math.round(bitmap.width * scale))
      const height = Math.max(1, Math.round(bitmap.height * scale))
      const canvas = new OffscreenCanvas(width, height)
      const context = canvas.getContext('2d')
      if (!context) throw new Error('This browser draws no pictures beside the page.')
      context.drawImage(bitmap, 0, 0, width, height)
      return { canvas, pixels: () => context.getImageData(0, 0, width, height).data, width, height }
    }
    const { width, height, pixels } = drawn(READ_AT_MOST)
    const start = performance.now()
    const codes = readCodes(greyOf(width, height, pixels()), () => performance.now() - start > TIME_MS)
    let image = ''
    for (const { side, quality } of KEPT_AS) {
      const blob = await drawn(side).canvas.convertToBlob({ type: 'image/jpeg', quality })
      image = await asLink(blob)
      if (image.length <= mostSigns) break
      image = ''
    }
    bitmap.close()
    return { codes, image }
  },
}

async function asLink(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer())
  let text = ''
  for (let at = 0; at < bytes.length; at += 8_192) text += String.fromCharCode(...bytes.subarray(at, at + 8_192))
  return `data:image/jpeg;base64,${btoa(text)}`
}

export type LabelApi = typeof api
expose(api)
