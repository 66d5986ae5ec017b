// What the screens say. The texts are data, in the same folder and form as the
// core's; sentences about a notebook come from the server, and these are the
// names of the things around them. Those of the bench, the shelf and the head are there
// at once; those of everything that comes later come with it.
import { computed, ref } from 'vue';
import page from '../../wording/messages/en/page.json';
import spelling from '../../wording/messages/en/spelling.json';
import terms from '../../wording/messages/en/terms.json';
import type views from '../../wording/messages/en/views.json';

type Page = typeof page & typeof views;
type Forms = { zero?: string; one: string; other: string };
/** The name of a text of the screens. */
export type Key = { [K in keyof Page]: Page[K] extends string[] ? never : K }[keyof Page];
/** The name of a list of texts, such as the usual reasons. */
export type ListKey = Exclude<keyof Page, Key>;
/** Which of two usages of English: titre or titer. */
export type Words = keyof (typeof terms)['titre'];

/** A text with [titre] and the like in one usage, spelt as that usage does. */
export function inUsage(text: string, words: Words): string {
  const said = text.replace(/\[(\w+)\]/g, (whole, name: string) =>
    name in terms ? terms[name as keyof typeof terms][words] : whole,
  );
  // What stands in braces is the name of a value.
  return said.replace(/\{\w+\}|[^{]+/g, (part) =>
    part.startsWith('{') ? part : (spelling[words] as string[][]).reduce((t, [a, b]) => t.replaceAll(a!, b!), part),
  );
}

const readers = ref<Words>('titre');
const here = ref<Words>(); // of what is open, before the reader's
const usage = computed(() => here.value ?? readers.value);

/** The language whose dates the usage writes. */
export const dates = () => (usage.value === 'titer' ? 'en-US' : 'en-GB');

let texts: Partial<Page> = page;

/** Fetches the texts of what comes later, which is shown when they are there. */
export const textsOfViews = async () =>
  void (texts = { ...page, ...(await import('../../wording/messages/en/views.json')).default });

/** Whether there is a text of this name. */
export const isKey = (name: string): name is Key => name in texts;

const plural = new Intl.PluralRules('en');

/** A text as it is written; of several forms the one of this number. */
function written(key: string, count: number): string | undefined {
  const kept = (texts as Record<string, string | Forms | undefined>)[key];
  if (typeof kept !== 'object') return kept;
  return (count === 0 ? kept.zero : undefined) ?? (plural.select(count) === 'one' ? kept.one : kept.other);
}

// Each text is put into a usage when it is first said: at the start most are not.
const said: Record<Words, Map<string, string>> = { titre: new Map(), titer: new Map() };

function inUse(text: string): string {
  const known = said[usage.value];
  const before = known.get(text);
  if (before !== undefined) return before;
  const now = inUsage(text, usage.value);
  known.set(text, now);
  return now;
}

/** A text of the screens, with the values that it names; with a count, in the form of that number. */
export function say(key: Key, values: Record<string, unknown> = {}, count = 1): string {
  const text = inUse(written(key, count) ?? key);
  return text.replace(/\{(\w+)\}/g, (_, name: string) => String({ count, ...values }[name] ?? ''));
}

export const sayList = (key: ListKey): string[] => (texts[key] ?? []).map(inUse);

/** The usage of the reader, which every screen speaks. */
export function speak(words: Words) {
  readers.value = words;
}

/** The usage of what is open, such as a notebook, which counts before the reader's until it is closed. */
export function speakHere(words?: Words) {
  here.value = words;
}
