import type { ReactNode } from 'react';
import { Button, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';

/** Something that is pressed where it stands, and says what it is by a choice from a list that opens there. */
export function ChoiceMenu<V extends string>({
  label,
  value,
  options,
  disabled,
  className = '',
  onChange,
  children,
}: {
  label: string;
  value: V;
  options: readonly (readonly [value: V, words: string])[];
  disabled: boolean;
  className?: string;
  onChange: (value: V) => void;
  children: ReactNode;
}) {
  return (
    <MenuTrigger>
      <Button aria-label={label} isDisabled={disabled} className={className}>
        {children}
      </Button>
      <Popover className="sheet max-h-80 min-w-56 overflow-auto p-1" offset={4} placement="bottom start">
        <Menu
          aria-label={label}
          selectionMode="single"
          selectedKeys={[value]}
          onAction={(key) => onChange(String(key) as V)}
        >
          {options.map(([one, words]) => (
            <MenuItem
              key={one}
              id={one}
              className="data-focused:bg-primary data-focused:text-primary-content cursor-pointer rounded-[4px] px-2.5 py-1 data-selected:font-semibold"
            >
              {words}
            </MenuItem>
          ))}
        </Menu>
      </Popover>
    </MenuTrigger>
  );
}
