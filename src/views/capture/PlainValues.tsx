import type { CaptureRules, Elsewhere, PlainValue, Reading } from '../../core/capture';
import { readingWords } from '../../core/capture/readings';
import { platformName } from '../../core/platforms/links';
import type { OwnPlatform } from '../../core/platforms/schema';

const idOf = ({ reading, platform }: Omit<PlainValue, 'name'>) => `${reading} ${platform}`.trim();

/** Everything that can be read, each with what people call it. */
function readingsOf({ keep }: CaptureRules, platforms: OwnPlatform[]): [id: string, words: string][] {
  const plain = (Object.keys(readingWords) as Reading[]).filter((one) => one !== 'kept_value');
  return [
    ...plain.map((reading): [string, string] => [reading, readingWords[reading]]),
    ...keep.clickIds.map(({ platform }): [string, string] => [
      `click_id ${platform}`,
      `the click ID of ${platformName(platform, platforms)}`,
    ]),
    ...keep.values.map(({ name }): [string, string] => [`kept_value ${name}`, `the kept value ${name}`]),
  ];
}

/** The values that a place gets under names of its own: for hosted forms and quizzes that read nothing but plain names. */
export function PlainValues({
  rules,
  platforms,
  place,
  mayChange,
  onEdit,
}: {
  rules: CaptureRules;
  platforms: OwnPlatform[];
  place: Elsewhere;
  mayChange: boolean;
  onEdit: (plain: PlainValue[]) => void;
}) {
  const { plain } = place;
  const set = (at: number, part: Partial<PlainValue>) =>
    onEdit(plain.map((one, index) => (index === at ? { ...one, ...part } : one)));
  return (
    <section className="border-base-300 border-t px-5 py-3" aria-label="Plain values">
      <p className="text-quiet text-[13px]">
        If its pages read only plain query names, it gets these too: unsigned, so anybody can read and change them.
      </p>
      <ul>
        {plain.map((one, at) => (
          <li key={at} className="mt-2 flex flex-wrap items-center gap-2">
            <input
              className="field value w-40"
              aria-label={`Name ${at + 1}`}
              placeholder="source"
              value={one.name}
              spellCheck={false}
              disabled={!mayChange}
              onChange={({ target }) => set(at, { name: target.value.trim() })}
            />
            is
            <select
              className="field w-60"
              aria-label={`What ${one.name || `name ${at + 1}`} is`}
              value={idOf(one)}
              disabled={!mayChange}
              onChange={({ target }) => {
                const [reading = '', platform = ''] = target.value.split(' ');
                set(at, { reading: reading as Reading, platform });
              }}
            >
              {readingsOf(rules, platforms).map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
            {mayChange && (
              <button
                type="button"
                className="quiet-link cursor-pointer"
                aria-label={`Take ${one.name || `name ${at + 1}`} out`}
                onClick={() => onEdit(plain.filter((_, index) => index !== at))}
              >
                Take out
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayChange && (
        <button
          type="button"
          className="button mt-2"
          onClick={() => onEdit([...plain, { name: '', reading: 'last_source', platform: '' }])}
        >
          Add a plain value
        </button>
      )}
    </section>
  );
}
