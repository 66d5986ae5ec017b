// @vitest-environment happy-dom
import { expect, it } from 'vitest';
import { submitOnce } from '@/shared/once';

it('takes one submit of two that come at once', () => {
  let now = 0;
  submitOnce(document, () => now);
  document.body.innerHTML = '<form><input value="a"></form><form data-many><input value="a"></form>';
  const [form, many] = [...document.forms];
  let taken = 0;
  document.body.addEventListener('submit', (e) => (taken++, e.preventDefault()));
  const submit = (f: HTMLFormElement, at: number) => {
    now = at;
    f.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true }));
    return taken;
  };
  expect(submit(form!, 1000)).toBe(1);
  expect(submit(form!, 1040)).toBe(1);
  expect(submit(form!, 1739)).toBe(1); // a held key goes on
  expect(submit(form!, 2439)).toBe(2);
  form!.querySelector('input')!.value = 'b';
  expect(submit(form!, 2440)).toBe(3); // something else
  expect(submit(many!, 2441)).toBe(4);
  expect(submit(many!, 2442)).toBe(5);
});
