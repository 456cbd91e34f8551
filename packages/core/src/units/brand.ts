declare const brand: unique symbol

/** A value that looks like `Base` but may not be mixed with another of the same shape. */
export type Brand<Base, Name extends string> = Base & { readonly [brand]: Name }
