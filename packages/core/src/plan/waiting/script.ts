/**
 * What runs in the visitor's browser around parts that wait for something that only it can know. It stands behind a
 * `template` that holds the code, which a browser parses and does not run (HTML Standard, 4.12.3). `o` is what is
 * waited for: `k` the snippet, `w` 1 for a first visit and 2 for a later one, `n` and `x` the least and the greatest
 * width, `e` days between two times, `s` seconds, `p` percent of the page, `l` leaving.
 *
 * Scripts run one after the other, as they would have: one with a file is waited for before the next. A visit is over
 * after half an hour. Where a browser keeps nothing, everybody is new, and what may come once only does not come.
 */
const SOURCE = `(o=>{let d=document,s=d.currentScript,t=s.previousElementSibling.content,m=d.pgm=d.pgm||{},n=Date.now(),c=0,v,
g=(k,v)=>{try{let l=localStorage;k='pragmatica-'+k;if(v)l[k]=JSON.stringify(v);return JSON.parse(l[k])}catch(e){}},
r=()=>{if(--c>0||innerWidth<o.n||innerWidth>o.x||o.e&&!g(o.k,n))return;let f=d.importNode(t,1),
q=[...f.querySelectorAll('script')].map(a=>{let h=new Text;a.replaceWith(h);return[h,a]}),
z=()=>{let[h,a]=q.shift()||[],b;if(a){b=a.src&&!a.attributes.async&&!/json/.test(a.type);if(b)a.async=0,a.onload=a.onerror=z;h.replaceWith(a);b||z()}};s.before(f);z()},
l=(e,f)=>{let y=1;c++;e.map(e=>addEventListener(e,p=>{if(y&&f(p))y=0,r()}))};
if(o.w){v=m.V||g('visit')||[0,0];if(!m.V)n-v[1]>18e5&&v[0]++,v[1]=n,g('visit',m.V=v);if(v[0]>1!=o.w>1)return}
if(o.e){o.k in m||(m[o.k]=n-(g(o.k)||0)<o.e*864e5);if(m[o.k])return}
if(o.s)c++,setTimeout(r,o.s*1e3);
o.p&&l(['scroll','load'],()=>(scrollY+innerHeight)/d.documentElement.scrollHeight*100>=o.p);
o.l&&l(['mouseout'],e=>!e.relatedTarget&&e.clientY<1);
c||r()})`;

/** The same without the line breaks, which are for those who read it here. */
export const WAITING_SCRIPT = SOURCE.replaceAll('\n', '');
