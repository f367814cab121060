export const styles = `
* { box-sizing: border-box; }
body { margin: 0; font: 16px/1.55 'Liberation Serif', Georgia, serif; color: #2b2a26; background: #f4f1e8; }
a { color: #6a3c1f; }
header { display: flex; gap: 28px; align-items: baseline; padding: 18px 36px; background: #e6dfca; }
.mark { font-size: 26px; letter-spacing: .04em; text-decoration: none; color: #3d4a2a; }
main { padding: 26px 36px; max-width: 1100px; }
h1 { font-size: 30px; line-height: 1.2; margin: 0 0 14px; }
table { width: 100%; border-collapse: collapse; background: #fffdf6; font-size: 15px; }
th, td { text-align: left; padding: 8px 12px; border-bottom: 1px solid #ddd5bd; }
.number { text-align: right; white-space: nowrap; }
code { font: 13px 'Liberation Mono', monospace; word-break: break-all; }
.small { color: #6b675b; font-size: 14px; }
.faults { display: flex; gap: 12px; align-items: end; margin-top: 22px; }
input, select, button { font: inherit; padding: 6px 10px; border: 1px solid #b9ae8f; background: #fffdf6; color: inherit; }
button { background: #3d4a2a; color: #fff; border-color: #3d4a2a; cursor: pointer; }
`;
