/** What a refusal says: our answers carry their words as text or as JSON. */
export async function said(response: Response): Promise<string> {
  const text = await response.text();
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === "string") return value;
    const { message } = (value ?? {}) as { message?: unknown };
    return typeof message === "string" ? message : text;
  } catch {
    return text;
  }
}
