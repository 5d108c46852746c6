// Makes the images of images.zip with ktx2-encoder 0.6.0 (npm), and what three 0.187's transcoder reads: node make-images.mjs FOLDER.
import fs from 'fs'; import { createRequire } from 'module'; const require=createRequire(import.meta.url);
import { encodeToKTX2 } from 'ktx2-encoder';
const out=process.argv[2]; fs.mkdirSync(out,{recursive:true});
const BASIS=require('./bt.cjs');
const M=await BASIS({wasmBinary:fs.readFileSync('node_modules/three/examples/jsm/libs/basis/basis_transcoder.wasm')}); M.initializeBasis();
function img(w,h,kind){const d=new Uint8Array(4*w*h);let s=5;const r=()=>{s=(s*1103515245+12345)%2147483648;return s/2147483648};
 for(let y=0;y<h;y++)for(let x=0;x<w;x++){const i=4*(y*w+x);
  if(kind=='smooth'){d[i]=255*x/w;d[i+1]=255*y/h;d[i+2]=128+100*Math.sin(x*.3+y*.2);d[i+3]=255;}
  else if(kind=='noise'){d[i]=r()*255;d[i+1]=r()*255;d[i+2]=r()*255;d[i+3]=255;}
  else if(kind=='alpha'){d[i]=255*((x>>2)&1);d[i+1]=200*y/h;d[i+2]=60;d[i+3]=255*Math.abs(Math.sin(x*.2))*(y/h);}
  else if(kind=='grey'){const v=255*Math.abs(Math.sin(x*.11)*Math.cos(y*.07));d[i]=d[i+1]=d[i+2]=v;d[i+3]=r()*255;}
  else if(kind=='flat'){d[i]=40;d[i+1]=(y<h/2)?90:200;d[i+2]=x<w/2?10:250;d[i+3]=255;}
  else {const nx=.5*Math.sin(x*.2),ny=.4*Math.cos(y*.23),nz=Math.sqrt(1-nx*nx-ny*ny);d[i]=127.5*(nx+1);d[i+1]=127.5*(ny+1);d[i+2]=127.5*(nz+1);d[i+3]=255;}}
 return d;}
const lines=[];
for (const [kind,w,h] of [['smooth',64,48],['noise',32,32],['alpha',48,40],['grey',40,44],['flat',33,29],['normal',64,64]])
 for (const [mode,o] of [['etc1s',{isUASTC:false,qualityLevel:200,compressionLevel:2,needSupercompression:true}],['uastc',{isUASTC:true,needSupercompression:false,uastcLDRQualityLevel:2}],['zstd',{isUASTC:true,needSupercompression:true,uastcLDRQualityLevel:3}]]) {
  const data=img(w,h,kind);
  const k=await encodeToKTX2(data,{...o,generateMipmap:kind=='smooth',isKTX2File:true,isPerceptual:kind!='normal',isSetKTX2SRGBTransferFunc:kind!='normal',imageDecoder:async()=>({width:w,height:h,data})});
  const f=new M.KTX2File(new Uint8Array(k)); if(!f.isValid()){console.log('invalid',kind,mode);continue;} f.startTranscoding(); const sz=f.getImageTranscodedSizeInBytes(0,0,0,13); const dst=new Uint8Array(sz); const ok=f.transcodeImage(dst,0,0,0,13,0,-1,-1);
  const W=f.getWidth(),H=f.getHeight(); let sum=0; for(let i=0;i<4*W*H;i++) sum+=dst[i]*(1+i%97);
  fs.writeFileSync(`${out}/${kind}_${mode}.ktx2`,k); fs.writeFileSync(`${out}/${kind}_${mode}.rgba`,dst); lines.push([`${kind}_${mode}`,W,H,f.getHasAlpha()?1:0,sum].join('\t')); console.log(kind,mode,W,H,sz,ok,k.length);
 }
fs.writeFileSync(`${out}/expected.tsv`,lines.join('\n')+'\n');
