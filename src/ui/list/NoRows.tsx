import type { ReactNode } from 'react';

/** What stands in a list without rows: that nothing was found, or what is there instead. */
export function NoRows({ columns, find, children }: { columns: number; find: string; children: ReactNode }) {
  return (
    <tr>
      <td colSpan={columns} className="text-quiet">
        {find ? 'Nothing matches what you look for.' : children}
      </td>
    </tr>
  );
}
