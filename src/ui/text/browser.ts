import { UAParser } from 'ua-parser-js';

/** A browser as a person would name it, from its user agent: "Firefox 128 on Linux". */
export function browserWords(userAgent: string): string {
  const { browser, os } = UAParser(userAgent);
  if (!browser.name) return 'a program that gave no name';
  const version = browser.version?.split('.')[0] ?? '';
  return `${browser.name} ${version}${os.name ? ` on ${os.name}` : ''}`.replace('  ', ' ');
}
