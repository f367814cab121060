export const styles = `
* { box-sizing: border-box; }
body { margin: 0; font: 16px/1.5 'Liberation Serif', Georgia, serif; color: #2a2140; background: #f4f1fa; }
main { max-width: 720px; padding: 32px 40px; }
h1 { font-size: 30px; margin: 0 0 12px; }
form { display: grid; gap: 12px; max-width: 420px; }
label { display: grid; gap: 4px; }
input, select { font: inherit; padding: 8px 10px; border: 1px solid #b9aed6; border-radius: 3px; }
button { font: inherit; padding: 10px 18px; border: 0; border-radius: 3px; background: #5a3fa0; color: #fff; cursor: pointer; }
table { border-collapse: collapse; }
td, th { text-align: left; padding: 6px 18px 6px 0; border-bottom: 1px solid #d9d1ec; vertical-align: top; }
code { word-break: break-all; }
`;
