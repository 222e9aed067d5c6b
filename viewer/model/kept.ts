/** What this browser keeps between two visits. A page from a file may keep nothing. */
export function kept(key: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(`loggia.${key}`) ?? 'null');
  } catch {
    return null;
  }
}

export function keep(key: string, value: unknown): void {
  try {
    localStorage.setItem(`loggia.${key}`, JSON.stringify(value));
  } catch {
    // It is as it was, at the next visit.
  }
}
