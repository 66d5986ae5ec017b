// What the screens say. The texts are data, in the same folder and form as the
// core's; sentences about a notebook come from the server, and these are the
// names of the things around them.
import { createI18n } from 'vue-i18n';
import page from '../../wording/messages/en/page.json';
import terms from '../../wording/messages/en/terms.json';

type Page = typeof page;
type Forms = { zero?: string; one: string; other: string };
/** The name of a text of the screens. */
export type Key = { [K in keyof Page]: Page[K] extends string[] ? never : K }[keyof Page];
/** The name of a list of texts, such as the usual reasons. */
export type ListKey = Exclude<keyof Page, Key>;
/** Which of two usages of English: titre or titer. */
export type Words = keyof (typeof terms)['titre'];

const usages: Words[] = ['titre', 'titer'];

/** A text with [titre] and the like in one usage. */
export function inUsage(text: string, words: Words): string {
  return text.replace(/\[(\w+)\]/g, (whole, name: string) =>
    name in terms ? terms[name as keyof typeof terms][words] : whole,
  );
}

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
  flatJson: true,
  locale: 'titre',
  fallbackLocale: 'titre',
  messages: Object.fromEntries(usages.map((words) => [words, messages(words)])),
});

/** A text of the screens; with a count, in the form of that number. */
export function say(key: Key, values: Record<string, unknown> = {}, count?: number): string {
  return count === undefined ? i18n.global.t(key, values) : i18n.global.t(key, { count, ...values }, count);
}

export function sayList(key: ListKey): string[] {
  return page[key];
}

/** The usage that every screen speaks from now on. */
export function speak(words: Words) {
  i18n.global.locale.value = words;
}
