/** A request to an account of an outside service, without what proves who asks: the server adds that as `authorised` says. */
export interface OutgoingRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** Below the account's address, with its query. */
  path: string;
  /** JSON; undefined where nothing is sent along. */
  body?: unknown;
  /** What is sent along as it is, in place of JSON. In the path the server puts a name of its own for `{file}`. */
  file?: { type: string; text: string };
  /** Headers of its own, beside those that every request has. */
  headers?: Record<string, string>;
}

/**
 * Where a request carries the account's token: in the header Authorization, in place of `{token}` in its path, or in a
 * header of a kind's own with what stands before it there. `signs`: that header carries a signature in place of the token, the
 * HMAC-SHA256 (RFC 2104) in hex, with the token as its key, of the body, or of the path with its query where there is none.
 */
export type Authorised = 'bearer' | 'path' | { header: string; before: string; signs?: boolean };

/** What came back, whatever its status. Header names are in lower case. */
export interface Answer {
  status: number;
  headers: Record<string, string>;
  body: string;
}

/** Something that an account can be asked: the request, and how its JSON is read. `read` throws where it is no such answer. */
export interface Question<T> {
  request: OutgoingRequest;
  read(body: unknown): T;
}
