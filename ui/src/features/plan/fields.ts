// What an instructor can say of a practical beyond the form's first page: the fields
// by groups, as they stand in the document. Reading and writing them is here; what is
// right is the core's business.
import type { InjectionKey, Ref } from 'vue';
import type { Practical } from '@/features/plan/draft';

export type Control = 'text' | 'area' | 'lines' | 'decimal' | 'whole' | 'check' | readonly string[];
export type Field = {
  path: string;
  control: Control;
  wide?: boolean;
  /** That something stands there is said on the closed heading, and not what. */
  hidden?: boolean;
  when?: (p: Practical) => boolean;
};

const classes = ['', 'A', 'B'] as const;
const solution = (which: 'titrant' | 'analyte'): Field[] => [
  { path: `chemistry.${which}.name`, control: 'text' },
  { path: `chemistry.${which}.formula`, control: 'text' },
];
const standard = (which: 'titrant' | 'analyte'): Field[] => [
  { path: `chemistry.${which}.uncertainty`, control: 'decimal' },
  { path: `chemistry.${which}.purity`, control: 'decimal' },
  { path: `chemistry.${which}.puritySpread`, control: 'decimal' },
  { path: `chemistry.${which}.solid`, control: 'text' },
];
const mixture = (p: Practical) => !!p.chemistry.endPoints;
const probed = (p: Practical) => !!p.probe?.shows;
const asks = (what: string) => (p: Practical) => p.asked?.what === what;

export const groups = {
  marking: [],
  norms: [],
  reaction: [
    { path: 'chemistry.equation', control: 'text', wide: true },
    ...solution('titrant'),
    ...solution('analyte'),
    { path: 'chemistry.titrated', control: 'text' },
    { path: 'chemistry.endPoints', control: ['', 'hydroxide-carbonate', 'carbonate-hydrogencarbonate'] },
    { path: 'chemistry.other', control: 'text', when: mixture },
  ],
  asked: [
    {
      path: 'asked.what',
      control: [
        '',
        'concentration',
        'mass-concentration',
        'mass-fraction',
        'amount',
        'mass',
        'mass-per-tablet',
        'purity',
        'water',
        'molar-mass',
        'protons',
        'volume-strength',
        'factor',
      ],
      wide: true,
    },
    { path: 'asked.as', control: 'text' },
    { path: 'asked.asRatio', control: 'text' },
    { path: 'asked.density', control: 'decimal', when: asks('mass-fraction') },
    { path: 'asked.nominal', control: 'decimal', when: asks('factor') },
    { path: 'asked.expected', control: 'decimal' },
    { path: 'asked.expectedSecond', control: 'decimal', when: mixture },
    { path: 'asked.expectedTitre', control: 'decimal' },
    { path: 'asked.reference', control: 'decimal', hidden: true },
    { path: 'asked.label.value', control: 'decimal' },
    { path: 'asked.label.unit', control: 'text' },
    { path: 'asked.label.text', control: 'text', wide: true },
  ],
  solutions: [
    ...standard('titrant'),
    ...standard('analyte'),
    { path: 'chemistry.diluted.taken', control: 'decimal' },
    { path: 'chemistry.diluted.madeUp', control: 'decimal' },
    { path: 'chemistry.diluted.class', control: classes },
    { path: 'glass.balance', control: 'decimal' },
    { path: 'glass.supply.titrant', control: 'decimal' },
    { path: 'glass.supply.analyte', control: 'decimal' },
  ],
  judging: [
    { path: 'rules.agreement.kind', control: ['', 'spread', 'relative'] },
    { path: 'rules.agreement.percent', control: 'decimal' },
    { path: 'rules.agreement.average', control: ['', 'largest', 'all', 'closest'] },
    { path: 'rules.figures', control: 'whole' },
    { path: 'rules.atomicWeights', control: ['', 'hundredth', 'tenth', 'whole'] },
    { path: 'rules.readings.freeFlow', control: 'decimal' },
    { path: 'rules.readings.dropwise', control: 'decimal' },
    { path: 'rules.readings.hold', control: 'whole' },
    { path: 'rules.agreement.asTimeAllows', control: 'check', wide: true },
    { path: 'rules.agreement.roughCounts', control: 'check', wide: true },
    { path: 'rules.readings.noRough', control: 'check', wide: true },
    { path: 'rules.readings.startAtZero', control: 'check', wide: true },
    { path: 'rules.roundMean', control: 'check', wide: true },
    { path: 'rules.subtractions', control: 'check', wide: true },
  ],
  probe: [
    { path: 'probe.shows', control: ['', 'pH', 'mV'] },
    { path: 'probe.way', control: ['', 'slope', 'fixed'], when: probed },
    { path: 'probe.step', control: 'decimal', when: probed },
    { path: 'probe.fine', control: 'decimal', when: probed },
    { path: 'probe.tail', control: 'whole', when: probed },
    {
      path: 'probe.use',
      control: ['', 'fit', 'second-derivative', 'steepest', 'gran-before', 'gran-after'],
      when: probed,
    },
    { path: 'probe.flask', control: 'decimal', when: probed },
    { path: 'probe.steady', control: 'decimal', when: probed },
    { path: 'probe.electrode', control: 'decimal', when: (p) => p.probe?.shows === 'mV' },
    { path: 'probe.buffers', control: 'lines', when: probed },
    { path: 'probe.carbonate', control: 'check', wide: true, when: probed },
  ],
  sequence: [{ path: 'report.whole', control: 'check', wide: true, when: (p: Practical) => !!p.after }],
  lists: [], // with a form of their own, as what follows
  exercise: [],
  writing: [
    { path: 'showing.working', control: ['', 'steps', 'factors', 'formula'] },
    { path: 'showing.style.words', control: ['', 'titre', 'titer'] },
    { path: 'showing.style.units', control: ['', 'mL', 'cm3'] },
  ],
} satisfies Record<string, Field[]>;

export type Group = keyof typeof groups;

type Tree = { [key: string]: unknown } | unknown[];
const parts = (path: string) => path.split(/[.[\]]+/).filter(Boolean);

/** What stands at a path, such as route[0].volume. */
export function at(of: unknown, path: string): unknown {
  return parts(path).reduce<unknown>((now, part) => (now as Record<string, unknown> | undefined)?.[part], of);
}

/** With another value at a path; an empty one takes the field out, and what is empty then with it. */
export function withAt<T>(of: T, path: string, value: unknown): T {
  const write = (now: unknown, [first, ...rest]: string[]): unknown => {
    if (first === undefined) return value === '' ? undefined : value;
    const copy = (Array.isArray(now) ? [...now] : { ...(now as object | undefined) }) as Record<string, unknown>;
    const next = write(copy[first], rest);
    if (next === undefined) delete copy[first];
    else copy[first] = next;
    const left = Array.isArray(copy) || Object.keys(copy).length > 0;
    return left ? (copy as Tree) : undefined;
  };
  return write(of, parts(path)) as T;
}

/** With a field written. Words and units stand together or not at all; a tolerance belongs to the piece of glass. */
export function written(p: Practical, path: string, value: unknown): Practical {
  const [, vessel, field] = /^(.+\])\.(volume|class|by)$/.exec(path) ?? [];
  if (vessel) {
    const now = withAt(withAt(p, path, value), `${vessel}.tolerance`, undefined);
    // A burette is read for every trial: then results are compared, not titres.
    const last = vessel === `route[${p.route.length - 1}]`;
    return field === 'by' && value === 'burette' && last ? withAt(now, 'rules.agreement.kind', 'relative') : now;
  }
  const [, part] = /^showing\.style\.(words|units)$/.exec(path) ?? [];
  if (!part) return withAt(p, path, value);
  return withAt(p, 'showing.style', value && { words: 'titre', units: 'mL', ...p.showing.style, [part]: value });
}

/** The practical that is written, and what the core says is wrong with it where. */
export type Editing = { practical: Ref<Practical>; fault: Ref<{ path: string; text: string } | undefined> };
export const editing: InjectionKey<Editing> = Symbol('editing');
