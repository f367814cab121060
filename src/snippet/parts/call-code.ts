import { callCode } from '../../core/capture/call-code';
import type { MakePart } from '../part';

/** Shows each visitor's reference code beside telephone numbers, so that a call finds its visit. */
export const part: MakePart = ({ setup }) => ({
  work(host) {
    for (const { element, pages } of setup.rules.callCodes)
      host.watch(element, (found) => {
        const { visitor } = host.kept();
        if (!visitor || !location.pathname.startsWith(pages)) return;
        const code = callCode(visitor.id);
        if (found.textContent !== code) found.textContent = code;
      });
  },
});
