import { ComboBox, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components';

export interface Choice {
  value: string;
  /** What people read, where it says more than the value. */
  label?: string;
  /** Whether the label stands for the value, which is longer. */
  isShort?: boolean;
}

/** Choices that are drawn; more are found by typing. */
const mostDrawn = 60;

/** Whether a choice of a field's list is marked, which Enter takes. */
export const isChoosing = (field: EventTarget): boolean => (field as Element).hasAttribute('aria-activedescendant');

/**
 * A field whose value is picked from what is known or typed: the choices are found by value and by words while typing.
 * What is typed stays as it is typed.
 */
export function Combobox({
  label,
  value,
  choices,
  onChange,
  onDone,
  onPaste,
  id,
  className = 'field w-full',
  placeholder,
  isValue = true,
  isInvalid = false,
  describedBy,
  disabled = false,
  isFound = false,
  isFilteredHere = true,
}: {
  label: string;
  value: string;
  choices: readonly Choice[];
  onChange: (value: string) => void;
  /** Once the field is left, or a choice is picked. */
  onDone?: (value: string) => void;
  /** Takes a whole text that is pasted in place of what is there. */
  onPaste?: (text: string) => void;
  id?: string;
  className?: string;
  placeholder?: string | undefined;
  /** A value is set in the mono face. */
  isValue?: boolean;
  isInvalid?: boolean;
  describedBy?: string;
  disabled?: boolean;
  /** Whether `/` leads to it. */
  isFound?: boolean;
  /** False where the choices are those that fit what is typed already. */
  isFilteredHere?: boolean;
}) {
  const typed = value.trim().toLowerCase();
  const isPicked = choices.some((choice) => choice.value === value);
  const found =
    isPicked || !isFilteredHere
      ? choices
      : choices.filter((choice) => `${choice.value} ${choice.label ?? ''}`.toLowerCase().includes(typed));
  return (
    <ComboBox
      aria-label={label}
      allowsCustomValue
      menuTrigger="input"
      isDisabled={disabled}
      isInvalid={isInvalid}
      items={found.slice(0, mostDrawn)}
      inputValue={value}
      onInputChange={onChange}
      selectedKey={isPicked ? value : null}
      onSelectionChange={(key) => {
        if (key === null) return;
        onChange(String(key));
        onDone?.(String(key));
      }}
      onBlur={() => onDone?.(value)}
      className="contents"
    >
      <Input
        id={id}
        className={`${className} ${isValue ? 'value' : ''}`}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        aria-describedby={describedBy}
        data-find={isFound || undefined}
        onPaste={(event) => {
          const { selectionStart, selectionEnd } = event.currentTarget;
          const isWhole = selectionStart === 0 && selectionEnd === value.length;
          if (!onPaste || !isWhole) return;
          event.preventDefault();
          onPaste(event.clipboardData.getData('text/plain').trim());
        }}
        onKeyDown={(event) => {
          // Enter takes what is typed, where it does not take a choice.
          if (event.key === 'Enter' && !isChoosing(event.currentTarget)) onDone?.(value);
        }}
      />
      <Popover
        className="sheet max-h-64 w-(--trigger-width) min-w-56 overflow-auto p-1"
        offset={4}
        placement="bottom start"
        maxHeight={216}
      >
        <ListBox<Choice & object>>
          {({ value: one, label: words, isShort }) => (
            <ListBoxItem
              id={one}
              textValue={one}
              className="data-focused:bg-primary data-focused:text-primary-content cursor-pointer rounded-[4px] px-2.5 py-1"
            >
              <span className={isValue ? 'value' : ''}>{isShort ? words : one}</span>
              {words && words !== one && !isShort && <span className="block text-[12.5px] opacity-80">{words}</span>}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </ComboBox>
  );
}
