import type { BuildOptions } from 'esbuild'

export const serverBuild: BuildOptions
