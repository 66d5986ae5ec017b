// What the screens say. The texts are data, in the same folder and form as the
// core's; sentences about a notebook come from the server, and these are the
// names of the things around them.
import { createI18n } from 'vue-i18n';
import page from '../../wording/messages/en/page.json';
import spelling from '../../wording/messages/en/spelling.json';
import terms from '../../wording/messages/en/terms.json';

type Page = typeof page;
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

/** The language whose dates the usage writes. */
export const dates = () => (i18n.global.locale.value === 'titer' ? 'en-US' : 'en-GB');

// Each text is put into a usage when it is first said: at the start most are not.
const said: Record<Words, Map<string, string | null>> = { titre: new Map(), titer: new Map() };

function text(words: Words, key: string): string | null {
  const known = said[words].get(key);
  if (known !== undefined) return known;
  const kept = (page as Record<string, string | string[] | Forms>)[key];
  const whole =
    typeof kept === 'object' && 'other' in kept
      ? `${kept.zero ?? kept.other} | ${kept.one} | ${kept.other}`
      : typeof kept === 'string'
        ? kept
        : null;
  said[words].set(key, whole === null ? null : inUsage(whole, words));
  return said[words].get(key)!;
}

export const i18n = createI18n<false>({
  legacy: false,
  // The names of the texts are whole: plan.class is no folder.
  messageResolver: (usage, key) => text((usage as { usage: Words }).usage, key),
  locale: 'titre',
  fallbackLocale: 'titre',
  messages: { titre: { usage: 'titre' }, titer: { usage: 'titer' } },
});

/** A text of the screens; with a count, in the form of that number. */
export function say(key: Key, values: Record<string, unknown> = {}, count?: number): string {
  const plain = count === undefined ? text(i18n.global.locale.value as Words, key) : null;
  if (plain !== null && !/[{}|@%]/.test(plain)) return plain; // nothing to fill in: most are, and a phone is slow
  return count === undefined ? i18n.global.t(key, values) : i18n.global.t(key, { count, ...values }, count);
}

export function sayList(key: ListKey): string[] {
  return page[key].map((text) => inUsage(text, i18n.global.locale.value as Words));
}

/** The usage that every screen speaks from now on. */
export function speak(words: Words) {
  i18n.global.locale.value = words;
}
