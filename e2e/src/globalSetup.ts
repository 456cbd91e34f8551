import { makeReady } from './app'

export default makeReady
