import { readPage } from './packages/core/src/index.ts';
import { readFileSync, readdirSync } from 'node:fs';
for (const f of process.argv.slice(2)) {
const r = readPage({ url: 'https://www.example.com/news/x', status: 200, bytes: readFileSync(f), headers: {'content-type':'text/html'} });
console.log(f, {...r, skeleton: r.skeleton.length, links: r.links.length, items: r.items.map(i=>[i.kind,i.state,i.place,i.code.slice(0,80),i.form.slice(0,6),i.key.slice(0,6)])});
}
