/**
 * An answer that goes on: each value is sent as it comes, as server-sent events (WHATWG HTML, 9.2). Where the browser goes away
 * the values end.
 *
 * @param values their return is called where the browser goes away
 */
export function eventStream(values: AsyncGenerator<unknown>): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await values.next();
      if (done) controller.close();
      // What says nothing keeps the connection open.
      else controller.enqueue(encoder.encode(value === null ? ':\n\n' : `data: ${JSON.stringify(value)}\n\n`));
    },
    async cancel() {
      await values.return(undefined);
    },
  });
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
}
