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

function messages(words: Words): Record<string, string> {
  const texts = Object.entries(page as Record<string, string | string[] | Forms>);
  const said = texts.flatMap(([key, text]) => {
    if (Array.isArray(text)) return [];
    const whole = typeof text === 'string' ? text : `${text.zero ?? text.other} | ${text.one} | ${text.other}`;
    return [[key, inUsage(whole, words)]];
  });
  return Object.fromEntries(said) as Record<string, string>;
}

export const i18n = createI18n<false>({
  legacy: false,
  // The names of the texts are whole: plan.class is no folder.
  messageResolver: (texts, key) => (texts as Record<string, string>)[key] ?? null,
  locale: 'titre',
  fallbackLocale: 'titre',
  messages: { titre: messages('titre') } as Record<string, Record<string, string>>,
});

/** A text of the screens; with a count, in the form of that number. */
export function say(key: Key, values: Record<string, unknown> = {}, count?: number): string {
  return count === undefined ? i18n.global.t(key, values) : i18n.global.t(key, { count, ...values }, count);
}

export function sayList(key: ListKey): string[] {
  return page[key].map((text) => inUsage(text, i18n.global.locale.value as Words));
}

/** The usage that every screen speaks from now on. */
export function speak(words: Words) {
  // Made when it is first spoken.
  if (!i18n.global.availableLocales.includes(words)) i18n.global.setLocaleMessage(words, messages(words));
  i18n.global.locale.value = words;
}
