/**
 * For `onCloseAutoFocus` of menus and sheets: the focus goes back to what opened them, but only where nobody has taken it
 * since. They come to that by a timer, on a busy page long after somebody went on with the keyboard.
 */
export function giveFocusBack(event: Event): void {
  const { activeElement } = document;
  const left = event.target as Node;
  if (activeElement && activeElement !== document.body && !left.contains(activeElement))
    event.preventDefault();
}
