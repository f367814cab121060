import { parse } from 'tldts';
import { fieldsWrong } from '../../core/errors';

/** The name that cookies are kept on. @throws AVX_FIELD_WRONG where a host is one that everybody may have names below */
export function registrableOf(host: string): string {
  const { domain, isIcann, publicSuffix } = parse(host);
  if (domain) return domain;
  if (isIcann && publicSuffix === host)
    throw websiteWrong(
      `everybody may have a website below ${host}`,
      `Write it with its name before, such as bakery.${host}.`,
    );
  return host;
}

export const websiteWrong = (was: string, fix: string) => fieldsWrong([{ field: 'website', was, fix }]);
