import { createInterface } from 'node:readline'
import { Writable } from 'node:stream'

/**
 * Asks for a line at the terminal without showing what is typed: whoever looks over the shoulder, or scrolls back
 * later, sees nothing. Where the input is no terminal (a file, a pipe) the first line is read.
 */
export function askSecretly(question: string): Promise<string> {
  const nothing = new Writable({ write: (_chunk, _encoding, done) => done() })
  const input = createInterface({ input: process.stdin, output: nothing, terminal: process.stdin.isTTY === true })
  // Asked only now: before the interface has the terminal, the terminal itself shows what a quick hand types.
  process.stdout.write(question)
  return new Promise((done) => {
    let answer = ''
    input.once('line', (line) => {
      answer = line
      input.close()
    })
    input.once('SIGINT', () => process.exit(130))
    input.once('close', () => {
      process.stdout.write('\n')
      done(answer)
    })
  })
}
