import fs from "node:fs";
const f = fs.readdirSync("/tmp/prof").map((x) => "/tmp/prof/" + x).sort((a, b) => fs.statSync(b).size - fs.statSync(a).size)[0];
const p = JSON.parse(fs.readFileSync(f));
const self = new Map(); const by = new Map(p.nodes.map((n) => [n.id, n]));
p.samples.forEach((id, i) => { const n = by.get(id); const k = `${n.callFrame.functionName} ${n.callFrame.url.split("/").slice(-2).join("/")}:${n.callFrame.lineNumber}`; self.set(k, (self.get(k) ?? 0) + p.timeDeltas[i]); });
console.log([...self].sort((a, b) => b[1] - a[1]).slice(0, 16).map(([k, v]) => (v / 1000).toFixed(0) + " ms " + k).join("\n"));
