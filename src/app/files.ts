/** Gives a text to the person as a file. */
export const saveText = (name: string, type: string, text: string): void =>
  save(name, new Blob([text], { type }));

/** The same of bytes. */
export const saveBytes = (name: string, type: string, bytes: Uint8Array): void =>
  save(name, new Blob([bytes as Uint8Array<ArrayBuffer>], { type }));

function save(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const a = document.createElement('a');
  a.href = url;
  a.download = name;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A name that every file system takes. */
export function slug(name: string): string {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return plain.slice(0, 60) || 'craft';
}

/** Files that flights come in: logs of boards, and tracks. */
export const FLOWN_FILES = '.cbor,.log,.gpx,.kml,.geojson,.nmea,.txt,application/cbor';
