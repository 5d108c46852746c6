import {
  AmbientLight,
  Color,
  type DataTexture,
  type Light,
  LineBasicMaterial,
  LineSegments,
  NeutralToneMapping,
  PerspectiveCamera,
  PMREMGenerator,
  Scene,
  type Texture,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { niceStep } from '../shared/format';
import { groundLines } from '../view3d/groundLines';
import { surroundings } from '../view3d/surroundings';
import type { Asset } from './asset';

export type Backdrop = 'paper' | 'water' | 'white' | 'black' | 'surroundings' | 'own';
export type Layout = 'seam' | 'beside' | 'first' | 'second';

const ANGLE = 36;
const COLOURS: Partial<Record<Backdrop, string>> = {
  paper: '#e3e8e6',
  water: '#152a35',
  white: '#ffffff',
  black: '#000000',
};
/** What the lights of a file together throw on its middle; files differ by factors of thousands. */
const BRIGHTNESS = 4;
const EYE = new Vector3(0.55, 0.33, 0.77);

interface Shown {
  asset: Asset;
  scene: Scene;
  grid: LineSegments;
}

/** Draws one asset, or two with the seam between them, when something changed. */
export class Stage {
  readonly renderer: WebGLRenderer;
  private readonly camera = new PerspectiveCamera(ANGLE);
  private readonly controls: OrbitControls;
  private readonly image: DataTexture = surroundings();
  private readonly lit: Texture;
  private readonly shown: Shown[] = [];
  private asked = 0;
  layout: Layout = 'seam';
  seam = 0.5;
  /** Side of a square of the ground, in metres. */
  square = 1;

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.renderer.toneMapping = NeutralToneMapping;
    const generator = new PMREMGenerator(this.renderer);
    this.lit = generator.fromEquirectangular(this.image).texture;
    generator.dispose();
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.draw());
    // At once: it is told before the picture of the screen, which would stretch what is drawn.
    new ResizeObserver(() => this.now()).observe(canvas);
  }

  add(asset: Asset) {
    const scene = new Scene();
    scene.environment = this.lit;
    scene.add(asset.root);
    const square = niceStep(asset.size.length() / 6);
    this.square = square;
    const centre = asset.box.getCenter(new Vector3());
    const at = (n: number) => Math.round(n / square) * square;
    const ink = new LineBasicMaterial({ color: '#7d8f92', transparent: true, opacity: 0.45 });
    ink.depthWrite = false;
    const grid = new LineSegments(groundLines(square, at(centre.x), at(centre.z)), ink);
    scene.add(grid);
    this.shown.push({ asset, scene, grid });
  }

  /** All of the last asset, from the corner. */
  frame() {
    const last = this.shown.at(-1)?.asset;
    if (!last) {
      return;
    }
    const centre = last.box.getCenter(new Vector3());
    const radius = Math.max(1e-6, last.size.length() / 2);
    const narrow = Math.min(1, this.aspect());
    const distance = (radius * 1.15) / Math.sin((ANGLE * Math.PI) / 360) / Math.max(0.2, narrow);
    this.camera.near = radius * 0.002;
    this.camera.far = radius * 400;
    this.controls.target.copy(centre);
    this.camera.position.copy(EYE).normalize().multiplyScalar(distance).add(centre);
    this.controls.minDistance = radius * 0.01;
    this.controls.maxDistance = radius * 100;
    this.controls.update();
    this.draw();
  }

  /** Turns around the asset, in radians. */
  turn(right: number, up: number) {
    const away = this.camera.position.clone().sub(this.controls.target);
    const flat = Math.atan2(away.x, away.z) + right;
    const height = Math.asin(away.y / away.length()) + up;
    const kept = Math.max(-1.55, Math.min(1.55, height));
    const r = away.length();
    this.camera.position
      .set(
        r * Math.cos(kept) * Math.sin(flat),
        r * Math.sin(kept),
        r * Math.cos(kept) * Math.cos(flat),
      )
      .add(this.controls.target);
    this.controls.update();
  }

  /** Moves what is looked at, in heights of the view. */
  pan(right: number, up: number) {
    const reach = this.camera.position.distanceTo(this.controls.target) * 0.65;
    const move = new Vector3()
      .setFromMatrixColumn(this.camera.matrix, 0)
      .multiplyScalar(right * reach)
      .add(new Vector3().setFromMatrixColumn(this.camera.matrix, 1).multiplyScalar(up * reach));
    this.camera.position.add(move);
    this.controls.target.add(move);
    this.controls.update();
  }

  zoom(factor: number) {
    const away = this.camera.position.clone().sub(this.controls.target).multiplyScalar(factor);
    this.camera.position.copy(this.controls.target).add(away);
    this.controls.update();
  }

  backdrop(which: Backdrop, own: string) {
    for (const { scene } of this.shown) {
      scene.background =
        which === 'surroundings' ? this.image : new Color(which === 'own' ? own : COLOURS[which]);
      scene.backgroundBlurriness = 0.04;
    }
    this.draw();
  }

  grid(visible: boolean) {
    for (const { grid } of this.shown) {
      grid.visible = visible;
    }
    this.draw();
  }

  /** The lights of the files instead of the surroundings. */
  ownLights(own: boolean) {
    for (const { asset, scene } of this.shown) {
      const dim = scene.getObjectByName('dim');
      if (own && !dim) {
        const light = new AmbientLight('#ffffff', 0.25);
        light.name = 'dim';
        scene.add(light);
        even(asset);
      } else if (!own && dim) {
        scene.remove(dim);
      }
      scene.environment = own ? null : this.lit;
      for (const light of asset.lights) {
        light.visible = own;
      }
    }
    this.draw();
  }

  private aspect(): number {
    const { clientWidth, clientHeight } = this.canvas;
    const width = this.layout === 'beside' && this.shown.length > 1 ? clientWidth / 2 : clientWidth;
    return width / Math.max(1, clientHeight);
  }

  /** Draws once, before the next picture of the screen. */
  draw() {
    if (!this.asked) {
      this.asked = requestAnimationFrame(() => {
        this.asked = 0;
        this.now();
      });
    }
  }

  private now() {
    const { clientWidth: width, clientHeight: height } = this.canvas;
    const renderer = this.renderer;
    renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    renderer.setSize(width, height, false);
    this.camera.aspect = this.aspect();
    this.camera.updateProjectionMatrix();
    const [first, second] = this.shown;
    renderer.setScissorTest(false);
    renderer.setViewport(0, 0, width, height);
    if (!first) {
      return;
    }
    if (!second || this.layout === 'first' || this.layout === 'second') {
      renderer.render((this.layout === 'second' && second ? second : first).scene, this.camera);
      return;
    }
    const beside = this.layout === 'beside';
    const at = Math.round(width * (beside ? 0.5 : this.seam));
    renderer.setScissorTest(true);
    for (const [i, side] of [first, second].entries()) {
      const from = i === 0 ? 0 : at;
      const wide = i === 0 ? at : width - at;
      if (beside) {
        renderer.setViewport(from, 0, wide, height);
      }
      renderer.setScissor(from, 0, wide, height);
      if (wide > 0) {
        renderer.render(side.scene, this.camera);
      }
    }
    renderer.setScissorTest(false);
  }
}

/** Keeps the proportions of a file's lights and sets how bright they are together. */
function even(asset: Asset) {
  const middle = asset.box.getCenter(new Vector3());
  const at = new Vector3();
  const thrown = asset.lights.map((light: Light) => {
    const sun = light.type === 'DirectionalLight';
    const away = sun ? 1 : light.getWorldPosition(at).distanceToSquared(middle);
    return light.intensity / Math.max(1e-9, away);
  });
  const all = thrown.reduce((sum, t) => sum + t, 0);
  for (const light of asset.lights) {
    light.intensity = all > 0 ? (light.intensity * BRIGHTNESS) / all : 0;
  }
}
