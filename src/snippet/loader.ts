/** Put in front by the edge: the live release's script, and the door that hears of pages which stop the snippet. */
declare const AVRIX_SRC: string;
declare const AVRIX_STOPPED: string;
/** Where the scripts stand by which rules are tried that are not live yet, before a trial's name. */
declare const AVRIX_TRY: string;

/*
 * What the pasted snippet loads. It loads the live release, also where the page wants scripts to have a nonce or to go
 * through a policy of trusted types; where the page's content security policy stops the snippet all the same, the
 * browser says so here, and whatever the policy leaves open carries it to the edge.
 */
try {
  const { nonce } = (document.currentScript ?? {}) as { nonce?: string };
  const { trustedTypes } = globalThis as {
    trustedTypes?: { createPolicy(name: string, rules: object): { createScriptURL(address: string): string } };
  };
  const asItIs = (address: string) => address;
  let trusted = asItIs;

  const load = (address: string) => {
    const script = document.createElement('script');
    if (nonce) script.nonce = nonce;
    script.async = true;
    script.src = trusted(address);
    document.head.append(script);
  };
  // Of what a page insists on the browser tells the first 40 characters.
  const isOurs = ({ blockedURI, sample }: SecurityPolicyViolationEvent) =>
    blockedURI.startsWith(new URL(AVRIX_STOPPED).origin) ||
    sample === 'avrix' ||
    sample.endsWith(AVRIX_SRC.slice(0, 40));
  /** The trial that this tab is in. */
  const trialHere = (): string | null => {
    try {
      return sessionStorage.getItem('avx_trial');
    } catch {
      return null;
    }
  };
  let isSaid = false;
  addEventListener('securitypolicyviolation', (event) => {
    if (isSaid || event.disposition !== 'enforce' || !isOurs(event)) return;
    isSaid = true;
    const { documentURI, effectiveDirective, blockedURI } = event;
    const body = { documentURL: documentURI, effectiveDirective, blockedURL: blockedURI, disposition: 'enforce' };
    const report = JSON.stringify([{ type: 'csp-violation', body }]);
    // A script was let in, for this is one; only what may not load scripts may still send.
    if (effectiveDirective.startsWith('connect')) load(`${AVRIX_STOPPED}?report=${encodeURIComponent(report)}`);
    else navigator.sendBeacon(AVRIX_STOPPED, report);
  });
  try {
    const policy = trustedTypes?.createPolicy('avrix', { createScriptURL: asItIs });
    if (policy) trusted = (address) => policy.createScriptURL(address);
  } catch {
    // The page's policy knows no such name; it matters only where the page insists on one.
  }
  const trial = /[?&]avx_try=([\w-]+)/.exec(location.search)?.[1] ?? trialHere();
  load(trial ? `${AVRIX_TRY}${trial}.js` : AVRIX_SRC);
} catch {
  // The page never sees an error of ours.
}
