/**
 * Characters that do not belong into a line of text: control characters (a NUL ends a text in a database), halves of a
 * surrogate pair, and marks that only turn the direction of writing.
 */
const FOREIGN =
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/
const EVERY_FOREIGN = new RegExp(FOREIGN, 'g')

/**
 * The first character that does not belong into a text, by its code: `U+0000`. Tab and line ends are not counted.
 * @returns `undefined` for a text that may be kept
 */
export function foreignCharacterIn(text: string): string | undefined {
  const found = FOREIGN.exec(text)?.[0]
  return found === undefined ? undefined : `U+${found.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`
}

/** A text without what does not belong there: devices pad what they say with NULs. Blanks at the ends go too. */
export function plainText(text: string): string {
  return text.replace(EVERY_FOREIGN, '').trim()
}
