export const styles = `
* { box-sizing: border-box; }
body { margin: 0; font: 15px/1.45 'Liberation Sans', Arial, sans-serif; color: #2b2118; background: #f6f1e7; }
header { display: flex; gap: 16px; align-items: baseline; padding: 14px 28px; background: #4a3120; color: #e9d9bf; }
header a { font: 600 20px Georgia, 'DejaVu Serif', serif; color: #fff; text-decoration: none; }
header span a { font: inherit; color: inherit; text-decoration: underline; }
main { padding: 22px 28px; max-width: 1180px; }
h1 { font: 600 24px Georgia, 'DejaVu Serif', serif; margin: 0; }
h2 { font-size: 15px; margin: 22px 0 8px; }
section > h2:first-child { margin-top: 0; }
a { color: #7a3d12; }
.crumb { margin: 0 0 6px; color: #7b6a58; }
.under { margin: 4px 0 20px; color: #6a5a49; }
.search { display: flex; gap: 10px; align-items: center; margin-bottom: 16px; }
.search h1 { margin-right: auto; }
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 28px; align-items: start; }
section, body > main > table { background: #fffdf8; border: 1px solid #e0d4bf; border-radius: 4px; }
section { padding: 18px 20px; }
table { width: 100%; border-collapse: collapse; }
th, td { text-align: left; padding: 8px 12px; border-bottom: 1px solid #eee4d2; vertical-align: top; }
section td, section th { padding: 6px 8px 6px 0; }
th { font-weight: 600; color: #6a5a49; font-size: 13px; }
.number { text-align: right; white-space: nowrap; color: #6a5a49; }
i { color: #8a7a67; }
code { font: 13px 'Liberation Mono', monospace; word-break: break-all; }
input, select { font: inherit; padding: 6px 9px; border: 1px solid #c9b99e; border-radius: 3px; background: #fff; }
button { font: inherit; padding: 6px 12px; border: 1px solid #4a3120; border-radius: 3px; background: #fff; color: #4a3120; cursor: pointer; }
button:disabled { background: #4a3120; color: #fff; cursor: default; }
.stages { display: flex; flex-wrap: wrap; gap: 8px; margin-bottom: 14px; }
.amount { display: flex; gap: 8px; align-items: end; margin-top: 18px; }
.amount label { display: grid; gap: 4px; }
.note { border-left: 3px solid #e0d4bf; padding-left: 12px; margin-bottom: 12px; }
.note p { margin: 2px 0; }
.note p:first-child { color: #6a5a49; font-size: 13px; }
.pages { display: flex; gap: 14px; justify-content: flex-end; padding: 14px 0; }
  .faults { display: flex; gap: 10px; align-items: center; padding-top: 14px; border-top: 1px solid #e0d4bf; color: #6a5a49; }
.empty { padding: 20px; }
`;
