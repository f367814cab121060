import { z } from 'zod';

/** A place in a JSON document (RFC 6901); '' is the whole of it. */
export const pointerSchema = z
  .string()
  .max(300, 'must have at most 300 characters')
  .regex(/^(\/([^~/]|~[01])*)*$/, 'must be a place such as /order/number');

/** A path below an account's address, with its query. */
export const pathSchema = z
  .string()
  .max(500, 'must have at most 500 characters')
  .regex(/^(\/[^\s#]*)?$/, 'must begin with a slash, such as /v1/conversions');

/** The name of an HTTP header (RFC 9110, 5.1); those that the client sets itself cannot be set here. */
export const headerNameSchema = z
  .string()
  .max(80, 'must have at most 80 characters')
  .regex(/^[!#$%&'*+.^_`|~0-9A-Za-z-]+$/, 'must be the name of a header, such as X-Account')
  .refine(
    (name) =>
      !/^(host|content-length|content-type|transfer-encoding|connection|accept|upgrade|expect|te|trailer)$/i.test(name),
    'must not be a header that every request has anyway',
  );
