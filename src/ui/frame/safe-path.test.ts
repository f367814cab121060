import fc from 'fast-check';
import { expect, it } from 'vitest';
import { safePath } from './safe-path';

it.each(['/', '/b/larkmoor/strands?find=a b&page=2', '/b/larkmoor#x', '/x?to=//evil.example'])(
  '%s is gone on to',
  (path) => expect(safePath(path)).toBe(path),
);

it.each([
  ...[
    '//evil.example',
    '/\\evil.example',
    '\\/evil.example',
    '/\t/evil.example',
    '/\n/evil.example',
    '\t//evil.example',
  ],
  ...[
    'https://evil.example/',
    'javascript:alert(1)',
    'evil.example',
    '',
    '/\u0000/evil.example',
    '//[',
    undefined,
    null,
    7,
  ],
])('%j is not', (path) => expect(safePath(path)).toBe('/'));

it('whatever is asked for, a browser stays with Avrix', () => {
  const piece = fc.constantFrom('/', '\\', '\t', '\r', '@', ':', '?', '#', '.', 'http:', 'evil.example', ' ');
  fc.assert(
    fc.property(
      fc.array(piece).map((pieces) => pieces.join('')),
      (path) => {
        expect(new URL(safePath(path), 'http://avrix.localhost:4300/sign-in').origin).toBe(
          'http://avrix.localhost:4300',
        );
      },
    ),
  );
});
