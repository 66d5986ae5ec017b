// Many buttons in a row are one stop of the Tab key: the arrow keys go from one to the other.

/** For the keydown of what holds them. */
export function rove(e: KeyboardEvent) {
  const all = [...(e.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button:not(:disabled)')];
  const at = all.indexOf(document.activeElement as HTMLElement);
  const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: all.length - 1 }[e.key];
  if (at < 0 || to === undefined || !all[to]) return;
  e.preventDefault();
  all[to].focus();
}
