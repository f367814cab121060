import { usedIn, usedInWords, type UsedIn } from '../../core/links/uses';

/** Where a link is used and whose it is, as the register keeps it. */
export interface LinkUse {
  usedIn: UsedIn;
  place: string;
  owner: string;
}

export function WhereUsed({ use, onUse }: { use: LinkUse; onUse: (use: LinkUse) => void }) {
  return (
    <section className="sheet flex flex-col gap-2 p-5" aria-label="Where it is used">
      <h2 className="text-base">Where it is used</h2>
      <UseFields use={use} onUse={onUse} />
    </section>
  );
}

export function UseFields({ use, onUse }: { use: LinkUse; onUse: (use: LinkUse) => void }) {
  return (
    <>
      <label>
        <span className="text-quiet block text-[12.5px]">In</span>
        <select
          className="field mt-0.5 w-full"
          value={use.usedIn}
          onChange={(event) => onUse({ ...use, usedIn: event.target.value as UsedIn })}
        >
          {usedIn.map((one) => (
            <option key={one} value={one}>
              {usedInWords[one]}
            </option>
          ))}
        </select>
      </label>
      {(['place', 'owner'] as const).map((field) => (
        <label key={field}>
          <span className="text-quiet block text-[12.5px]">{field === 'place' ? 'Exactly' : 'Whose it is'}</span>
          <input
            className="field mt-0.5 w-full"
            value={use[field]}
            placeholder={field === 'place' ? 'letter of 14 Jan, top' : 'Priya'}
            onChange={(event) => onUse({ ...use, [field]: event.target.value })}
          />
        </label>
      ))}
    </>
  );
}
