import { crc32 } from 'node:zlib';

/** Bytes in front of each record: its length and its checksum, both 32 bits, little end first. */
const head = 8;
/** No record is larger: a page's body has at most 32 KB, an edge's 64 KB. */
const longest = 4 * 2 ** 20;

/** One record of a spool file: length, CRC-32, then the text in UTF-8. */
export function encodeRecord(text: string): Buffer {
  const length = Buffer.byteLength(text, 'utf8');
  const record = Buffer.allocUnsafe(head + length);
  record.write(text, head, 'utf8');
  record.writeUInt32LE(length, 0);
  record.writeUInt32LE(crc32(record.subarray(head)), 4);
  return record;
}

export interface Decoded {
  texts: string[];
  /** Bytes that the whole records take up; a record cut off at the end is not among them. */
  bytes: number;
  /** True where a record's checksum or length is wrong: what follows cannot be read. */
  damaged: boolean;
}

/** Reads whole records from the beginning of `bytes`, at most `most` of them. */
export function decodeRecords(bytes: Buffer, most: number): Decoded {
  const texts: string[] = [];
  let at = 0;
  while (texts.length < most && at + head <= bytes.length) {
    const length = bytes.readUInt32LE(at);
    if (length > longest) return { texts, bytes: at, damaged: true };
    if (at + head + length > bytes.length) break;
    const body = bytes.subarray(at + head, at + head + length);
    if (crc32(body) !== bytes.readUInt32LE(at + 4)) return { texts, bytes: at, damaged: true };
    texts.push(body.toString('utf8'));
    at += head + length;
  }
  return { texts, bytes: at, damaged: false };
}
