/** A name that every file system takes. */
export function fileName(text: string): string {
  return (
    text
      .normalize("NFKD")
      .replace(/[^\w -]+/g, "")
      .trim()
      .slice(0, 80) || "tejado"
  );
}
