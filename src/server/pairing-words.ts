/** Words that stand for a code: to be read out across a shop and typed. */
import { randomInt } from 'node:crypto'
import { wordlist } from '@scure/bip39/wordlists/english.js'

/** Of 2048 kinds, 11 bits each: 66 bits. */
const WORDS = 6

export const pairingWords = (): string =>
  Array.from({ length: WORDS }, () => wordlist[randomInt(wordlist.length)]!).join(' ')
