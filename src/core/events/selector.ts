import type { Press } from './press';

/** A name that a program made, such as `r-7f3a9c2e` or `input-48213`: it will be another one tomorrow. */
export function looksGenerated(name: string): boolean {
  return (
    /\d{3,}|[0-9a-f]{8,}|^:|^[a-z]{0,3}[-_]?\d{2,}$/i.test(name) ||
    // Digits between letters.
    name.split(/[-_:.]/).some((part) => part.length >= 5 && /\d[a-z]/i.test(part))
  );
}

const quoted = (value: string): string => `"${value.replace(/["\\]/g, '\\$&')}"`;

/**
 * The selector of what was pressed that will most likely still mean it after the page was changed: by its ID, its name, a
 * data attribute; '' where it has nothing that lasts.
 */
export function lastingSelector({ tag, id, name, data }: Press): string {
  if (id && !looksGenerated(id)) return /^[a-z][\w-]*$/i.test(id) ? `#${id}` : `[id=${quoted(id)}]`;
  if (name && !looksGenerated(name)) return `${tag}[name=${quoted(name)}]`;
  const [attribute] = data.filter(([key, value]) => !looksGenerated(key) && !looksGenerated(value));
  if (!attribute) return '';
  const [key, value] = attribute;
  return value ? `[data-${key}=${quoted(value)}]` : `[data-${key}]`;
}
