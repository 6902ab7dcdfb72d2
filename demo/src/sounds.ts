/** Sounds as WAV files: 8 kHz, 8 bits, one channel. */

const RATE = 8000;

/** A file of the samples that a function of the time gives, each from -1 to 1; `seconds` long. */
function wav(seconds: number, at: (t: number) => number): Uint8Array {
  const length = Math.round(RATE * seconds);
  const bytes = Buffer.alloc(44 + length);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + length, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(RATE, 24);
  bytes.writeUInt32LE(RATE, 28);
  bytes.writeUInt16LE(1, 32);
  bytes.writeUInt16LE(8, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(length, 40);
  for (let i = 0; i < length; i++) bytes[44 + i] = 128 + Math.round(110 * at(i / RATE));
  return bytes;
}

/** A ship's bell. */
export const bell = (): Uint8Array =>
  wav(0.7, (t) => (Math.sin(2 * Math.PI * 880 * t) * 0.6 + Math.sin(2 * Math.PI * 2217 * t) * 0.3) * Math.exp(-5 * t));

/** One wave that comes up a beach and goes back, to be played round and round. */
export function surf(seconds: number): Uint8Array {
  let state = 7;
  let low = 0;
  return wav(seconds, (t) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    // White noise with its high tones taken away, louder and quieter with the wave.
    low += 0.12 * (state / 2 ** 31 - 1 - low);
    return Math.max(-1, Math.min(1, low * 2.2)) * Math.sin((Math.PI * t) / seconds) ** 2;
  });
}
