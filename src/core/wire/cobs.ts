/** Consistent overhead byte stuffing (Cheshire and Baker 1999): the result holds no zero byte. */
export function cobsEncode(bytes: Uint8Array): Uint8Array {
  const out = new Uint8Array(bytes.length + Math.ceil(bytes.length / 254) + 1);
  let code = 1;
  let codeAt = 0;
  let at = 1;
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i]!;
    if (b !== 0) {
      out[at++] = b;
      code++;
      if (code === 0xff && i < bytes.length - 1) {
        out[codeAt] = code;
        codeAt = at++;
        code = 1;
      }
    } else {
      out[codeAt] = code;
      codeAt = at++;
      code = 1;
    }
  }
  out[codeAt] = code;
  return out.subarray(0, at);
}

/** The bytes back, or null where the stuffing is broken (a zero inside, or a code that points past the end). */
export function cobsDecode(stuffed: Uint8Array): Uint8Array | null {
  const out = new Uint8Array(stuffed.length);
  let at = 0;
  let i = 0;
  while (i < stuffed.length) {
    const code = stuffed[i]!;
    if (code === 0 || i + code > stuffed.length) return null;
    for (let k = 1; k < code; k++) {
      const b = stuffed[i + k]!;
      if (b === 0) return null;
      out[at++] = b;
    }
    i += code;
    if (code < 0xff && i < stuffed.length) out[at++] = 0;
  }
  return out.subarray(0, at);
}
