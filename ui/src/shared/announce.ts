// What changed on the page, said to those who do not see it.
import { ref } from 'vue';

export const announced = ref('');

export function announce(text: string) {
  announced.value = text;
}
