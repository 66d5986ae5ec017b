// Notebooks that were begun without the network: under an id made here, until the
// server has them, perhaps under another.
import type { Notebook } from '@/api/client';
import { mine } from '@/device/owner';
import { readValue, write, places } from '@/device/storage';

type Begun = { class: string; practical: string; settled?: string; notebook: Notebook };

const place = (id: string) => mine('begun') + id;

export const isBegunHere = (id: string): boolean => {
  const begun = readValue<Begun>(place(id));
  return begun !== undefined && begun.settled === undefined;
};

export function begunHere(id: string) {
  const begun = readValue<Begun>(place(id));
  return (
    begun && {
      ...begun,
      /** The server has it, under this id. */
      settle: (there: string) => void write(place(id), { ...begun, settled: there }),
    }
  );
}

/** The id by which the server knows it. */
export const idThere = (id: string): string => readValue<Begun>(place(id))?.settled ?? id;

/** Begins a notebook here, as the server said it would be. */
export function beginHere(blank: Notebook, where: { class: string; practical: string }, id: string): Notebook {
  const notebook = { ...blank, id };
  write(place(id), { ...where, notebook } satisfies Begun);
  return notebook;
}

/** The notebook of a practical that was begun here and is not with the server yet. */
export function begunOf(where: { class: string; practical: string }): Notebook | undefined {
  return places(mine('begun'))
    .map((p) => readValue<Begun>(p))
    .find((b) => b && b.class === where.class && b.practical === where.practical && !b.settled)?.notebook;
}
