export interface Fragment {
  readonly language: string;
  readonly info: string;
  readonly text: string;
}

export const SMALL: string;
export function fragmentsOf(page: string): Fragment[];
export function wholeMoveset(text: string): string;
