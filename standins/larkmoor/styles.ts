export const styles = `
* { box-sizing: border-box; }
body { margin: 0; min-height: 100vh; display: flex; flex-direction: column; font: 17px/1.5 'Liberation Sans', Arial, sans-serif; color: #22303c; background: #fff6ea; }
a { color: #22303c; }
header { display: flex; gap: 40px; align-items: baseline; padding: 22px 48px; }
.mark { font: 700 26px 'Liberation Sans', Arial, sans-serif; letter-spacing: -.02em; color: #c8552b; text-decoration: none; }
nav { display: flex; gap: 26px; }
nav a { text-decoration: none; }
nav a:hover { text-decoration: underline; }
main { flex: 1; padding: 36px 48px; width: 100%; max-width: 1180px; }
h1 { font-size: 46px; line-height: 1.08; letter-spacing: -.03em; margin: 0 0 16px; max-width: 12em; }
.home, .fleet { display: grid; grid-template-columns: 1.1fr 1fr; gap: 48px; align-items: center; }
.fleet { align-items: start; }
.fleet h1 { font-size: 38px; }
.words p { max-width: 36em; }
svg { width: 100%; max-width: 440px; color: #22303c; }
form { display: grid; gap: 14px; padding: 26px; background: #fff; border: 1px solid #ecdcc4; border-radius: 8px; }
label { display: grid; gap: 4px; font-size: 15px; }
input { font: inherit; padding: 9px 12px; border: 1px solid #cbb899; border-radius: 5px; }
.button { display: inline-block; font: 600 17px 'Liberation Sans', Arial, sans-serif; padding: 12px 22px; border: 0; border-radius: 6px; background: #b84a22; color: #fff; text-decoration: none; cursor: pointer; }
.problems { margin: 0; padding: 12px 12px 12px 30px; background: #fdeee7; border-radius: 5px; }
footer { padding: 22px 48px; color: #6d6152; font-size: 14px; }
`;
