export const styles = `
* { box-sizing: border-box; }
body { margin: 0; font: 15px/1.5 'Liberation Sans', Arial, sans-serif; color: #1f2340; background: #fbfaff; }
a { color: #37308f; }
.mark { font: italic 700 23px Georgia, 'DejaVu Serif', serif; color: #37308f; text-decoration: none; }
.ask { display: flex; gap: 22px; align-items: center; padding: 18px 32px; border-bottom: 1px solid #e2def4; background: #fff; }
.ask form { display: flex; gap: 8px; flex: 1; max-width: 760px; }
.ask input { flex: 1; }
.bar { display: flex; gap: 16px; align-items: baseline; padding: 14px 32px; background: #fff; border-bottom: 1px solid #e2def4; }
.quiet { color: #5b5e7b; }
input, select { font: inherit; padding: 8px 11px; border: 1px solid #bdb8de; border-radius: 3px; background: #fff; color: inherit; }
button { font: inherit; padding: 8px 16px; border: 0; border-radius: 3px; background: #37308f; color: #fff; cursor: pointer; }
main { padding: 22px 32px; }
.paid { padding: 16px 32px 22px; background: #f3ddeb; }
.paid p { margin: 0 0 10px; color: #7d2459; }
.paid div { display: grid; grid-auto-columns: minmax(0, 1fr); grid-auto-flow: column; gap: 16px; max-width: 1180px; }
.paid a { display: grid; gap: 6px; align-content: start; padding: 14px 16px; background: #fff; border-bottom: 4px solid #c9569a; text-decoration: none; color: #1f2340; }
.paid a b { font-size: 18px; color: #7d2459; }
.paid a:hover b { text-decoration: underline; }
.results { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 48px; max-width: 1180px; }
article { padding: 14px 0; border-top: 1px solid #e2def4; }
article h2 { margin: 2px 0; font-size: 18px; font-weight: 600; }
article p { margin: 0; }
.from { color: #5b5e7b; font-size: 13px; }
h1 { font: 600 24px Georgia, 'DejaVu Serif', serif; margin: 0 0 4px; }
.columns { display: grid; grid-template-columns: 1.15fr 1fr 1.1fr; gap: 20px; align-items: start; }
section { background: #fff; border: 1px solid #e2def4; border-radius: 4px; padding: 16px 18px; overflow: hidden; }
section h2 { font-size: 15px; margin: 18px 0 8px; }
section h2:first-child { margin-top: 0; }
table { width: 100%; border-collapse: collapse; font-size: 14px; }
th, td { text-align: left; padding: 6px 8px 6px 0; border-bottom: 1px solid #efecf9; }
th { color: #5b5e7b; font-weight: 600; font-size: 13px; }
.number { text-align: right; }
td.number { font-variant-numeric: tabular-nums; }
code { font: 13px 'Liberation Mono', monospace; overflow-wrap: anywhere; }
section form + form { margin-top: 10px; }
section form { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
section form input { padding: 4px 6px; }
section form button { padding: 5px 12px; }
`;
