import { html, raw } from 'hono/html';

/** One page of a stand-in, with its styles. */
export const page = (title: string, styles: string, body: unknown) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <style>
          ${raw(styles)}
        </style>
      </head>
      <body>
        ${body}
      </body>
    </html>`;
