// A form is submitted once: a second Enter, click or tap that comes at once with the same contents is a
// bounce. What is asked after the first (such as "do you mean it?") stands longer than that.
const bounce = 700; // ms
const last = new WeakMap<HTMLFormElement, { at: number; holds: string }>();

const holds = (form: HTMLFormElement) =>
  JSON.stringify(
    [...form.elements].map((e) => {
      if (e instanceof HTMLInputElement && (e.type === 'checkbox' || e.type === 'radio')) return e.checked;
      return e instanceof HTMLInputElement || e instanceof HTMLTextAreaElement || e instanceof HTMLSelectElement
        ? e.value
        : '';
    }),
  );

/** Lets no form of the page be submitted twice at once. One that takes many in a row says data-many. */
export function submitOnce(page: Document, now = () => performance.now()) {
  page.addEventListener(
    'submit',
    (e) => {
      const form = e.target as HTMLFormElement;
      const this_ = { at: now(), holds: holds(form) };
      const before = last.get(form);
      last.set(form, this_);
      if (!before || 'many' in form.dataset) return;
      if (this_.at - before.at >= bounce || this_.holds !== before.holds) return;
      e.preventDefault();
      e.stopImmediatePropagation();
    },
    true,
  );
}
