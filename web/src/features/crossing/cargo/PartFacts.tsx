import type { SideView, SurveyView } from '../../../api/client';
import { count, plain } from '../../../shared/format';
import { meshBox } from '../../../view3d/useMeshes';
import { useView } from '../../../view3d/viewState';
import { ClipList } from './ClipList';
import { FactList } from './FactList';
import { RigFacts } from './RigFacts';
import { TextureList } from './TextureList';

interface Props {
  crossingId: string;
  side: SideView;
  survey: SurveyView;
}

/** Facts of the selected part, or of everything. */
export function PartFacts({ crossingId, side, survey }: Props) {
  const selected = useView((s) => s.selected);
  const node = selected.length === 1 ? side.nodes.find((n) => n.id === selected[0]) : undefined;
  if (selected.length > 1) {
    return (
      <section className="facts">
        <h2 className="caps">{selected.length} parts chosen</h2>
      </section>
    );
  }
  if (!node) {
    return <WholeFacts side={side} survey={survey} />;
  }
  const shown = side.nodes.filter((n) => n.mesh !== '');
  const place = shown.indexOf(node);
  const mesh = place >= 0 ? survey.inventory.perMesh[place] : undefined;
  const box = node.mesh ? meshBox(node.mesh) : null;
  const facts: [string, string][] = [['Path', node.path]];
  if (box) {
    facts.push(['Size', `${triple(side, (k) => (box.max[k] as number) - (box.min[k] as number))}`]);
  }
  if (mesh) {
    facts.push(['Faces', facesText(mesh)]);
    facts.push(['Vertices', count(mesh.vertices)]);
    facts.push(['Pieces', `${count(mesh.pieces)} · ${mesh.closed ? 'closed' : 'open'}`]);
    facts.push(['UV sets', String(mesh.uvSets)]);
    facts.push(['Normals', mesh.hasNormals ? 'yes' : 'none']);
    facts.push(['Materials', String(mesh.materials)]);
    facts.push(['Edge, mean', `${plain(mesh.meanEdge)} units`]);
  }
  return (
    <section className="facts" aria-label="Facts">
      <h2 className="caps">{node.name || '(no name)'}</h2>
      <FactList facts={facts} />
      <RigFacts crossingId={crossingId} nodeId={node.id} />
    </section>
  );
}

/** Three lengths, in metres where the unit is known. */
function triple(side: SideView, length: (axis: number) => number): string {
  const known = !side.heightDoubtful;
  const scale = known ? side.metresPerUnit : 1;
  const text = [0, 1, 2].map((k) => plain(Number((length(k) * scale).toPrecision(4))));
  return `${text.join(' × ')} ${known ? 'm' : 'units'}`;
}

function facesText(mesh: SurveyView['inventory']['perMesh'][number]): string {
  if (mesh.faces === mesh.quads && mesh.faces > 0) {
    return `${count(mesh.faces)} · all quads`;
  }
  const threes = mesh.faces - mesh.quads - mesh.larger;
  if (threes === mesh.faces) {
    return `${count(mesh.faces)} · triangles`;
  }
  const larger = mesh.larger > 0 ? `, ${count(mesh.larger)} larger` : '';
  return `${count(mesh.faces)} · ${count(threes)} of 3, ${count(mesh.quads)} of 4${larger}`;
}

function WholeFacts({ side, survey }: Omit<Props, 'crossingId'>) {
  const i = survey.inventory;
  const b = side.bounds;
  const facts: [string, string][] = [];
  if (b.length === 6) {
    facts.push(['Size', `${triple(side, (k) => (b[k + 3] as number) - (b[k] as number))}`]);
  }
  facts.push(['Triangles', count(i.triangles)]);
  facts.push(['Faces', `${count(i.faces)} · ${count(i.quadFaces)} quads`]);
  facts.push(['Vertices', count(i.vertices)]);
  facts.push(['Pieces', count(i.pieces)]);
  facts.push(['Materials', count(i.materials)]);
  facts.push([
    'Textures',
    `${count(i.textures)}${i.texturesMissing > 0 ? ` · ${i.texturesMissing} missing` : ''}`,
  ]);
  if (side.skins.length > 0) {
    facts.push(['Joints', count(side.nodes.filter((n) => n.kind === 'joint').length)]);
  }
  if (side.cameras.length > 0) {
    facts.push(['Cameras', side.cameras.map((c) => c.name || '(no name)').join(', ')]);
  }
  if (side.lights.length > 0) {
    facts.push([
      'Lights',
      side.lights.map((l) => `${l.name || '(no name)'}, ${l.kind}`).join('; '),
    ]);
  }
  if (side.looks.length > 0) {
    facts.push(['Looks', side.looks.join(', ')]);
  }
  if (i.lines + i.points > 0) {
    facts.push(['Lines, points', `${count(i.lines)}, ${count(i.points)}`]);
  }
  return (
    <section className="facts" aria-label="Facts">
      <h2 className="caps">Whole scene</h2>
      <FactList facts={facts} />
      {side.clips.length > 0 && <ClipList clips={side.clips} />}
      {side.textures.length > 0 && <TextureList textures={side.textures} />}
    </section>
  );
}
