import { appendFileSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** Rows of one kind by their ID. `put` writes to the file before it returns. */
export interface Rows<Row extends { id: string }> {
  get(id: string): Row | undefined;
  put(row: Row): void;
  all(): Row[];
}
export type Store = ReturnType<typeof openStore>;

/**
 * A stand-in's own store: one file with a line for each change, read whole at start and made short again then. A last
 * line that was cut off is left out.
 */
export function openStore(file: string) {
  const kinds = new Map<string, Map<string, { id: string }>>();
  const rowsOf = (kind: string) => {
    const rows = kinds.get(kind) ?? new Map<string, { id: string }>();
    kinds.set(kind, rows);
    return rows;
  };
  mkdirSync(dirname(file), { recursive: true });
  if (existsSync(file))
    for (const line of readFileSync(file, 'utf8').split('\n')) {
      try {
        const { kind, row } = JSON.parse(line) as { kind: string; row: { id: string } };
        rowsOf(kind).set(row.id, row);
      } catch {
        // An empty or cut-off line.
      }
    }
  const lineOf = (kind: string, row: { id: string }) => JSON.stringify({ kind, row }) + '\n';
  const short = [...kinds].flatMap(([kind, rows]) => [...rows.values()].map((row) => lineOf(kind, row)));
  writeFileSync(`${file}.new`, short.join(''));
  renameSync(`${file}.new`, file);

  return {
    rows<Row extends { id: string }>(kind: string): Rows<Row> {
      const rows = rowsOf(kind) as unknown as Map<string, Row>;
      return {
        get: (id) => rows.get(id),
        put(row) {
          rows.set(row.id, row);
          appendFileSync(file, lineOf(kind, row));
        },
        all: () => [...rows.values()],
      };
    },
  };
}
