// Makes streams.zip: every connectivity, prediction and kind of values that draco3d 1.5.7 (npm) writes, with what its own decoder reads.
// node make-streams.mjs FOLDER, then zip the folder.
import draco3d from 'draco3d';
import fs from 'fs'; let lines=[];
const out = process.argv[2]; fs.mkdirSync(out,{recursive:true});
const E = await draco3d.createEncoderModule({}); const D = await draco3d.createDecoderModule({});
function torus(n,m,closed){ const p=[],nn=[],uv=[],col=[],jt=[],f=[];
 for(let i=0;i<=n;i++)for(let j=0;j<=m;j++){const a=2*Math.PI*i/n,b=2*Math.PI*j/m*(closed?1:0.8);
  p.push((3+Math.cos(b))*Math.cos(a),(3+Math.cos(b))*Math.sin(a),Math.sin(b));
  nn.push(Math.cos(b)*Math.cos(a),Math.cos(b)*Math.sin(a),Math.sin(b)); uv.push(i/n,j/m); col.push(i*7%256,j*13%256,(i+j)%256,255); jt.push(i%5,j%300,0,1);}
 if(closed){for(let i=0;i<=n;i++){for(let k=0;k<3;k++)p[3*(i*(m+1)+m)+k]=p[3*(i*(m+1))+k];for(let k=0;k<3;k++)nn[3*(i*(m+1)+m)+k]=nn[3*(i*(m+1))+k];}
  for(let j=0;j<=m;j++){for(let k=0;k<3;k++)p[3*(n*(m+1)+j)+k]=p[3*j+k];for(let k=0;k<3;k++)nn[3*(n*(m+1)+j)+k]=nn[3*j+k];}}
 for(let i=0;i<n;i++)for(let j=0;j<m;j++){ if((i*31+j*17)%23==0) continue; const a=i*(m+1)+j,b=a+1,c=a+m+1,d=c+1; f.push(a,c,b,b,c,d);}
 return {p,nn,uv,col,jt,f};}
function soup(k){ const p=[],nn=[],uv=[],col=[],jt=[],f=[]; let s=7; const r=()=>{s=(s*1103515245+12345)%2147483648;return s/2147483648};
 for(let i=0;i<k;i++){p.push(r(),r(),r());const a=r()*6.28,z=2*r()-1,q=Math.sqrt(1-z*z);nn.push(q*Math.cos(a),q*Math.sin(a),z);uv.push(r(),r());col.push(r()*255|0,r()*255|0,r()*255|0,255);jt.push(r()*9|0,r()*500|0,0,0);}
 for(let i=0;i<2*k;i++){let a=r()*k|0,b=r()*k|0,c=r()*k|0; if(a!=b&&b!=c&&a!=c)f.push(a,b,c);} return {p,nn,uv,col,jt,f};}
const cube={p:[],nn:[],uv:[],col:[],jt:[],f:[]};{const q=[[0,0,1],[0,0,-1],[0,1,0],[0,-1,0],[1,0,0],[-1,0,0]];for(const n of q){const u=[n[1],n[2],n[0]],v=[n[1]*u[2]-n[2]*u[1],n[2]*u[0]-n[0]*u[2],n[0]*u[1]-n[1]*u[0]];const o=cube.p.length/3;
 for(const [s,t] of [[-1,-1],[1,-1],[1,1],[-1,1]]){for(let k=0;k<3;k++)cube.p.push(n[k]+s*u[k]+t*v[k]);cube.nn.push(...n);cube.uv.push((s+1)/2,(t+1)/2);cube.col.push(200,10,o,255);cube.jt.push(o,1,0,0);}cube.f.push(o,o+1,o+2,o,o+2,o+3);}}
const shapes={torus:torus(9,7,true),sheet:torus(8,6,false),soup:soup(18),cube};
let count=0;
for(const [name,m] of Object.entries(shapes)) for(const what of ['p','pn','pnu','all']) for(const [method,speed,q] of [['eb',0,1],['eb',3,1],['eb',5,1],['eb',7,1],['eb',10,1],['seq',5,1],['seq',10,0],['eb',0,0]]) {
 const e=new E.Encoder(), b=new E.MeshBuilder(), mesh=new E.Mesh(); const nf=m.f.length/3, nv=m.p.length/3;
 b.AddFacesToMesh(mesh,nf,new Uint32Array(m.f)); b.AddFloatAttributeToMesh(mesh,E.POSITION,nv,3,new Float32Array(m.p));
 if(what!='p') b.AddFloatAttributeToMesh(mesh,E.NORMAL,nv,3,new Float32Array(m.nn));
 if(what=='pnu'||what=='all') b.AddFloatAttributeToMesh(mesh,E.TEX_COORD,nv,2,new Float32Array(m.uv));
 if(what=='all'){b.AddUInt8Attribute(mesh,E.COLOR,nv,4,new Uint8Array(m.col)); b.AddUInt16Attribute(mesh,E.GENERIC,nv,4,new Uint16Array(m.jt));}
 e.SetEncodingMethod(method=='eb'?E.MESH_EDGEBREAKER_ENCODING:E.MESH_SEQUENTIAL_ENCODING); e.SetSpeedOptions(speed,speed);
 if(q){e.SetAttributeQuantization(E.POSITION,12);e.SetAttributeQuantization(E.NORMAL,9);e.SetAttributeQuantization(E.TEX_COORD,10);}
 const a=new E.DracoInt8Array(); const len=e.EncodeMeshToDracoBuffer(mesh,a); if(!len){console.log('fail',name,what,method,speed);continue;}
 const bytes=Buffer.alloc(len); for(let i=0;i<len;i++)bytes[i]=a.GetValue(i)&255;
 const dec=new D.Decoder(), buf=new D.DecoderBuffer(); buf.Init(new Int8Array(bytes),len); const dm=new D.Mesh(); const st=dec.DecodeBufferToMesh(buf,dm); if(!st.ok()) {console.log('dec fail');continue;}
 // One line a stream: points, faces, sums of what stands where, by which any change shows.
 const np=dm.num_points(), nf2=dm.num_faces(); let sum=0,at=0; const ia=new D.DracoInt32Array();
 for(let i=0;i<nf2;i++){dec.GetFaceFromMesh(dm,i,ia);for(let k=0;k<3;k++)sum+=ia.GetValue(k)*(1+at++%97);}
 const w=[np,nf2,sum];
 for(let k=0;k<dm.num_attributes();k++){const a2=dec.GetAttribute(dm,k);const fa=new D.DracoFloat32Array();dec.GetAttributeFloatForAllPoints(dm,a2,fa);let v=0;for(let i=0;i<np*a2.num_components();i++)v+=fa.GetValue(i)*(1+i%97);w.push(a2.unique_id(),a2.num_components(),v.toFixed(4));}
 const n=`${name}_${what}_${method}${speed}${q?'':'f'}`; fs.writeFileSync(`${out}/${n}.drc`,bytes); lines.push([n,...w].join('\t')); count++;
}
fs.writeFileSync(`${out}/expected.tsv`,lines.join('\n')+'\n');console.log(count);
