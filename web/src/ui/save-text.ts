/** Gives a text to the person as a file of that name. */
export function saveText(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name.replace(/[/\\]/g, '-');
  link.click();
  URL.revokeObjectURL(url);
}
