export { readRunFile, runFileOf } from './runFile'
