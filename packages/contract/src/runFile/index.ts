export { readRunFile, RUN_FORMAT, runFileOf, type RunFile, type RunFileReading } from './runFile'
