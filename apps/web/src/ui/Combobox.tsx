import { useCombobox } from 'downshift';
import type { ReactNode } from 'react';

/** A field with a list under it that follows what is typed; arrows and Enter choose, Escape closes, a finger touches. */
export function Combobox<T>({
  id,
  label,
  placeholder,
  text,
  onText,
  items,
  keyOf,
  say,
  show,
  onChoose,
  onEnter,
  none,
  className,
}: {
  id?: string;
  label: string;
  placeholder?: string;
  text: string;
  onText: (text: string) => void;
  items: readonly T[];
  keyOf: (item: T) => string;
  /** an item in words, for who listens */
  say: (item: T) => string;
  show: (item: T) => ReactNode;
  onChoose: (item: T) => void;
  /** Enter with nothing chosen: whoever types faster than the list comes, for example a scanner */
  onEnter?: () => void;
  /** what stands where the list would be when nothing fits; nothing where it is not known yet */
  none?: ReactNode;
  className?: string;
}) {
  const { isOpen, highlightedIndex, getInputProps, getLabelProps, getMenuProps, getItemProps } = useCombobox<T>({
    items: [...items],
    inputValue: text,
    selectedItem: null,
    itemToString: (item) => (item === null ? '' : say(item)),
    onSelectedItemChange: ({ selectedItem }) => (selectedItem === null ? undefined : onChoose(selectedItem)),
    ...(id === undefined ? {} : { inputId: id }),
  });
  return (
    <div className={`relative ${className ?? ''}`}>
      <label {...getLabelProps()} className="sr-only">
        {label}
      </label>
      <input
        {...getInputProps({
          onChange: (e) => onText(e.currentTarget.value),
          onKeyDown: (e) => {
            if (e.key === 'Enter' && highlightedIndex < 0) {
              e.preventDefault();
              onEnter?.();
            }
          },
        })}
        type="search"
        placeholder={placeholder}
        autoComplete="off"
        className="w-full min-h-9 my-1.5 border border-edge rounded-sm px-3 bg-page"
      />
      <ul
        {...getMenuProps()}
        hidden={!isOpen || (items.length === 0 && !none)}
        className="absolute z-40 left-0 right-0 top-full bg-sheet border border-edge max-h-96 overflow-auto"
      >
        {isOpen
          ? items.map((item, index) => (
              <li
                key={keyOf(item)}
                {...getItemProps({ item, index })}
                className={`px-3 py-2 min-h-11 cursor-pointer ${index === highlightedIndex ? 'bg-accent-tint' : ''}`}
              >
                {show(item)}
              </li>
            ))
          : null}
        {isOpen && items.length === 0 && none ? <li className="px-3 py-2 text-soft">{none}</li> : null}
      </ul>
    </div>
  );
}
