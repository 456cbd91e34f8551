/** Where letters find something in a list: they are meant for the list. */
const LISTS = '[role=combobox], [role=listbox], [role=menu]'

/** Whether a key press is meant for a field or a list, not for the page. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  return target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.closest(LISTS) !== null
}
