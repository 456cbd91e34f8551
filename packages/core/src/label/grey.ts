/** A picture in greys: one byte for each point, 0 black to 255 white, row by row from the top left. */
export interface Grey {
  readonly width: number
  readonly height: number
  readonly data: Uint8ClampedArray
}

/** Greys of a picture in red, green, blue and opacity. @source ITU-R BT.601: weights of the three colours */
export function greyOf(width: number, height: number, rgba: Uint8ClampedArray): Grey {
  const data = new Uint8ClampedArray(width * height)
  for (let at = 0; at < data.length; at += 1) {
    const from = at * 4
    const light =
      0.299 * (rgba[from] as number) + 0.587 * (rgba[from + 1] as number) + 0.114 * (rgba[from + 2] as number)
    const opacity = (rgba[from + 3] as number) / 255
    data[at] = light * opacity + 255 * (1 - opacity)
  }
  return { width, height, data }
}

/** A part of a picture, cut at its edges. */
export function cutOut({ width, data }: Grey, left: number, top: number, wide: number, high: number): Grey {
  const part = new Uint8ClampedArray(wide * high)
  for (let y = 0; y < high; y += 1)
    part.set(data.subarray((top + y) * width + left, (top + y) * width + left + wide), y * wide)
  return { width: wide, height: high, data: part }
}

/** The picture turned about its middle, on white, as large as it has to be. @param degrees against the clock */
export function turned(image: Grey, degrees: number): Grey {
  if (degrees % 360 === 0) return image
  const angle = (degrees * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const width = Math.ceil(Math.abs(image.width * cos) + Math.abs(image.height * sin))
  const height = Math.ceil(Math.abs(image.width * sin) + Math.abs(image.height * cos))
  const data = new Uint8ClampedArray(width * height).fill(255)
  const from = image.data
  for (let y = 0; y < height; y += 1) {
    const dy = y - height / 2
    // Where this row begins in the picture, half a point added: what is left of it after the point is the nearest one.
    const startX = (-width / 2) * cos - dy * sin + image.width / 2
    const startY = (-width / 2) * sin + dy * cos + image.height / 2
    // Only what lies within the picture is gone through; no pairs in here, there are millions of points.
    const [leftX, rightX] = stepsWithin(startX, cos, image.width)
    const [leftY, rightY] = stepsWithin(startY, sin, image.height)
    const left = Math.max(0, leftX, leftY)
    const right = Math.min(width, rightX, rightY)
    for (let x = left; x < right; x += 1)
      data[y * width + x] = from[((startY + x * sin) | 0) * image.width + ((startX + x * cos) | 0)] as number
  }
  return { width, height, data }
}

/** Between which steps something that begins at `start` and goes on by `by` is from 0 to below `size`. */
function stepsWithin(start: number, by: number, size: number): readonly [number, number] {
  if (Math.abs(by) < 1e-9) return start >= 0 && start < size ? [0, Infinity] : [0, 0]
  const [one, other] = [-start / by, (size - start) / by]
  return by > 0 ? [Math.ceil(one), Math.ceil(other)] : [Math.floor(other) + 1, Math.floor(one) + 1]
}

/** Makes a rectangle of a picture white, in place. */
export function blanked(image: Grey, left: number, top: number, right: number, bottom: number): void {
  const within = (value: number, most: number) => Math.max(0, Math.min(most, Math.round(value)))
  const [from, to] = [within(left, image.width), within(right, image.width)]
  for (let y = within(top, image.height); y < within(bottom, image.height); y += 1)
    image.data.fill(255, y * image.width + from, y * image.width + to)
}
