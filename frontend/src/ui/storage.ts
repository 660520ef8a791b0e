/** The browser's storage, which may be full, blocked or not there: nothing depends on it. */

/** Keep a text; whether it was. */
export function keep(key: string, text: string): boolean {
  try {
    localStorage.setItem(key, text);
    return true;
  } catch {
    return false;
  }
}

export function recall(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function forget(key: string) {
  try {
    localStorage.removeItem(key);
  } catch {
    // What cannot be reached is not kept either.
  }
}

/** The keys that begin so. */
export function kept(beginning: string): string[] {
  try {
    return Object.keys(localStorage).filter((key) => key.startsWith(beginning));
  } catch {
    return [];
  }
}

/** A key of chance, for a press or a window. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Hand a text, or what was fetched, to the person as a file. */
export function download(name: string, content: string | Blob) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(
    typeof content === "string" ? new Blob([content], { type: "application/json" }) : content,
  );
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
