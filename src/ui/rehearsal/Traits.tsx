import { Button, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import { excludes, toggleTrait, traits as all, traitWords, type Trait } from '../../core/rehearsal/traits';
import { listed } from '../../core/listed';

/** What the visitor's browser does, changed where it stands. */
export function Traits({ traits, write }: { traits: Trait[]; write: (traits: Trait[]) => void }) {
  return (
    <MenuTrigger>
      <Button className="text-left">
        In a browser that{' '}
        <span className="part">
          {traits.length === 0 ? 'keeps everything' : listed(traits.map((one) => traitWords[one]))}
        </span>
        ,
      </Button>
      <Popover className="sheet min-w-56 p-1" offset={4} placement="top start">
        <Menu
          aria-label="The browser"
          selectionMode="multiple"
          selectedKeys={traits}
          onAction={(key) => write(toggleTrait(traits, key as Trait))}
        >
          {all.map((one) => (
            <MenuItem
              key={one}
              id={one}
              className="data-focused:bg-primary data-focused:text-primary-content cursor-pointer rounded-[4px] px-2.5 py-1 data-selected:font-semibold"
            >
              {({ isSelected }) => (
                <>
                  <span aria-hidden="true">{isSelected ? '✓ ' : ''}</span>
                  {traitWords[one]}
                  {excludes[one]?.some((other) => traits.includes(other)) ? ' instead' : ''}
                </>
              )}
            </MenuItem>
          ))}
        </Menu>
      </Popover>
    </MenuTrigger>
  );
}
