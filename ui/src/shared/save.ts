/** Offers something that was made here as a file. */
export function save(content: Blob, name: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name.replace(/[^\p{L}\p{N}. _-]/gu, '-');
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
