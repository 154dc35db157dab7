import { Decoder } from 'cbor-x';

const decoder = new Decoder({ useRecords: false, mapsAsObjects: true });

/**
 * The items of a CBOR sequence (RFC 8742). A last item that was cut short is left out, as a log's may be.
 * @throws nothing; bytes that are no CBOR give the items before them
 */
export function decodeCborSequence(bytes: Uint8Array): unknown[] {
  const items: unknown[] = [];
  try {
    decoder.decodeMultiple(bytes, (item: unknown) => {
      items.push(item);
    });
  } catch {
    // What came before the fault is already there.
  }
  return items;
}
