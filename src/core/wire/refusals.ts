/**
 * Why a board refuses, as a word that stays the same for good, so that tools need not read sentences. Beside it the board
 * says a sentence for a person. docs/link.md lists them; a test holds the two together. A board may use words of its own:
 * whoever does not know a word goes by the sentence.
 */
export const refusalCodes = {
  'unknown-request': 'the kind or shape of the request is not known',
  late: 'the command comes late or once more, or is for another run of the board',
  armed: 'the craft is armed',
  storing: 'a write before is still being stored',
  'other-settings': 'the board holds other settings than the edits were made on',
  'no-write': 'no write is open under this number',
  'other-plan': 'the board holds another route or other fences than those that were read',
  'no-plan': 'the bytes are no plan that the board understands',
  'no-room': 'the board keeps no routes and fences',
  'too-much': 'more edits than a write may have',
  incomplete: 'part of a write is missing or changed on the way',
  'no-output': 'there is no such output',
  propellers: 'nobody confirmed that the propellers are off',
  'hold-over': 'this hold has ended; the next one has a higher number',
  'unknown-group': 'there is no telemetry of this name',
  'unknown-stream': 'there is no stream of this name',
  'no-flight': 'there is no such flight on the store',
  'in-firmware': 'the firmware runs; this is for the loader',
  'in-loader': 'the loader runs; this is for the firmware',
  'other-target': 'the image is for another target',
  'too-large': 'the image is larger than the flash',
  'no-image': 'no image is being written, or its blocks are not all there',
  erasing: 'the flash is still being erased',
  'no-block': 'there is no such block in the image',
  damaged: 'the bytes came damaged; say them again',
  busy: 'too much waits already; say it again in a moment',
  'wrong-checksum': 'the flash does not hold what the plan says',
  'not-verified': 'there is no verified firmware to start',
  'unknown-procedure': 'there is no procedure of this name',
  'run-over': 'another procedure was begun since, under a higher number',
  silent: 'what it needs to hear is silent',
  'unknown-setting': 'of a setting: there is none of this key',
  'wrong-type': 'of a setting: the value is of another type',
  'not-a-choice': 'of a setting: it is none of the choices',
  'out-of-range': 'of a setting: it is less or more than the entry allows',
  rule: 'of a setting: it does not go together with another one',
  'carries-link': 'of a setting: the link itself needs it as it is',
  'no-counterpart': 'of a setting: the version on the board cannot be told this; the application says it',
} as const;
export type RefusalCode = keyof typeof refusalCodes;

/** A request that is refused as a whole. */
export class Refused {
  constructor(
    readonly code: RefusalCode,
    readonly why: string,
  ) {}
}
