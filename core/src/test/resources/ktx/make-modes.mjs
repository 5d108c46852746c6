// Every mode of UASTC: blocks of random bits that three's transcoder takes, put into one image.
import fs from 'fs'; import { createRequire } from 'module'; const require=createRequire(import.meta.url);
const M=await require('./bt.cjs')({wasmBinary:fs.readFileSync('node_modules/three/examples/jsm/libs/basis/basis_transcoder.wasm')}); M.initializeBasis();
const out=process.argv[2]; const base=new Uint8Array(fs.readFileSync(`${out}/normal_uastc.ktx2`)); const dv=new DataView(base.buffer,base.byteOffset);
const at=Number(dv.getBigUint64(80,true)), len=Number(dv.getBigUint64(88,true));
function rgba(file){const f=new M.KTX2File(file); if(!f.isValid()) return null; if(!f.startTranscoding()){f.close();f.delete();return null;} const d=new Uint8Array(f.getImageTranscodedSizeInBytes(0,0,0,13)); const ok=f.transcodeImage(d,0,0,0,13,0,-1,-1); f.close(); f.delete(); return ok?d:null;}
let s=77; const r=()=>{s=(s*1103515245+12345)%2147483648;return (s>>8)&255};
const file=base.slice(); let n=0,t=0;
while(n<len/16){ const keep=file.slice(at+16*n,at+16*n+16); for(let i=0;i<16;i++) file[at+16*n+i]=r(); file[at+16*n]=(file[at+16*n]&0x80)|t++%128; if(rgba(file)) n++; else file.set(keep,at+16*n); if(n%64==0) console.log(n); }
const d=rgba(file); fs.writeFileSync(`${out}/modes_uastc.ktx2`,file); fs.writeFileSync(`${out}/modes_uastc.rgba`,d); let sum=0; for(let i=0;i<d.length;i++) sum+=d[i]*(1+i%97); fs.appendFileSync(`${out}/expected.tsv`,['modes_uastc',64,64,1,sum].join('\t')+'\n');
