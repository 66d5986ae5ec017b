// What differs of a sheet, put into the one that is held (view/change.go).

export type Fields = Record<string, unknown>;
type ListChange = { length: number; items: Record<string, unknown> };

/** The sheet that a change makes of the one before; that one stays as it is. */
export function changed(held: Fields, change: Fields): Fields {
  const sheet = { ...held };
  for (const [name, value] of Object.entries(change)) {
    const list = held[name];
    if (value === null) delete sheet[name];
    else if (Array.isArray(list) && !Array.isArray(value)) {
      const { length, items } = value as ListChange;
      sheet[name] = Array.from({ length }, (_, i) => (String(i) in items ? items[String(i)] : list[i]));
    } else sheet[name] = value;
  }
  return sheet;
}
