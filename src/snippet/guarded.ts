/** Whatever goes wrong in it, at once or later, does not reach the page: its own error handlers hear of no error of ours. */
export const guarded =
  <Given extends unknown[]>(work: (...given: Given) => unknown) =>
  async (...given: Given): Promise<void> => {
    try {
      await work(...given);
    } catch {
      // Nothing to be done.
    }
  };
