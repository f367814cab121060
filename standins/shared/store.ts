import { appendFileSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** Rows of one kind by their ID. `put` writes to the file before it returns. */
export interface Rows<Row extends { id: string }> {
  get(id: string): Row | undefined;
  put(row: Row): void;
  all(): Row[];
  remove(id: string): void;
  /** How many rows there ever were, those that were taken out among them. */
  made(): number;
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
  /** How many of each kind were taken out. */
  const goneOf = new Map<string, number>();
  mkdirSync(dirname(file), { recursive: true });
  if (existsSync(file))
    for (const line of readFileSync(file, 'utf8').split('\n')) {
      try {
        const { kind, row, gone } = JSON.parse(line) as { kind: string; row: { id: string }; gone?: number };
        if (gone === undefined) rowsOf(kind).set(row.id, row);
        else {
          rowsOf(kind).delete(row.id);
          goneOf.set(kind, gone);
        }
      } catch {
        // An empty or cut-off line.
      }
    }
  const lineOf = (kind: string, row: { id: string }) => JSON.stringify({ kind, row }) + '\n';
  const short = [...kinds].flatMap(([kind, rows]) => [...rows.values()].map((row) => lineOf(kind, row)));
  const gone = [...goneOf].map(([kind, times]) => JSON.stringify({ kind, row: { id: '' }, gone: times }) + '\n');
  writeFileSync(`${file}.new`, [...short, ...gone].join(''));
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
        remove(id) {
          if (!rows.delete(id)) return;
          const times = (goneOf.get(kind) ?? 0) + 1;
          goneOf.set(kind, times);
          appendFileSync(file, JSON.stringify({ kind, row: { id }, gone: times }) + '\n');
        },
        made: () => rows.size + (goneOf.get(kind) ?? 0),
      };
    },
  };
}
