// The made-up autumn catalogue: a potter's bowls, jugs and plates on a table by a north window.
import * as THREE from 'three';
import { canvasTexture, seeded, shadowed, weave, woodPlanks } from './parts.js';

/** Glazes: base colour, the darker break where it runs thin, speckle strength, roughness. */
const GLAZES = {
  celadon: { base: [140, 165, 145], thin: [96, 110, 88], speckle: 0.1, roughness: 0.18 },
  tenmoku: { base: [44, 26, 20], thin: [128, 66, 28], speckle: 0.12, roughness: 0.16 },
  oatmeal: { base: [205, 190, 160], thin: [150, 112, 76], speckle: 0.55, roughness: 0.42 },
  cobalt: { base: [38, 66, 112], thin: [92, 88, 84], speckle: 0.2, roughness: 0.2 },
  ash: { base: [168, 158, 130], thin: [112, 92, 62], speckle: 0.35, roughness: 0.34 },
  shino: { base: [224, 208, 188], thin: [178, 96, 52], speckle: 0.25, roughness: 0.36 },
};
const CLAY = [122, 82, 56];

function glazeMaps(glaze, seed) {
  const random = seeded(seed);
  const rgb = (c, k = 1) => `rgb(${c.map((v) => Math.min(255, Math.round(v * k))).join(',')})`;
  const map = canvasTexture(1024, (g, size) => {
    // v runs along the profile: 0 the foot, then the outside up to the rim, then the inside down to the well.
    const ramp = g.createLinearGradient(0, size, 0, 0);
    ramp.addColorStop(0, rgb(CLAY));
    ramp.addColorStop(0.075, rgb(CLAY, 1.08));
    ramp.addColorStop(0.09, rgb(glaze.thin));
    ramp.addColorStop(0.16, rgb(glaze.base));
    ramp.addColorStop(0.42, rgb(glaze.base, 1.04));
    ramp.addColorStop(0.49, rgb(glaze.thin, 1.05));
    ramp.addColorStop(0.515, rgb(glaze.thin));
    ramp.addColorStop(0.58, rgb(glaze.base));
    ramp.addColorStop(1, rgb(glaze.base, 0.9));
    g.fillStyle = ramp;
    g.fillRect(0, 0, size, size);
    // Runs of the glaze, thicker and darker, down the outside.
    for (let i = 0; i < 46; i++) {
      const x = random() * size;
      const w = 8 + random() * 40;
      const from = size * (0.5 + random() * 0.05);
      const to = size * (0.72 + random() * 0.2);
      const run = g.createLinearGradient(0, from, 0, to);
      run.addColorStop(0, 'rgba(0,0,0,0)');
      run.addColorStop(0.8, `rgba(${random() < 0.5 ? '20,14,8' : '255,245,225'},${0.03 + random() * 0.09})`);
      run.addColorStop(1, 'rgba(0,0,0,0)');
      g.fillStyle = run;
      g.fillRect(x, from, w, to - from);
    }
    for (let i = 0; i < 5200; i++) {
      const big = random() < 0.04;
      g.fillStyle = `rgba(${random() < 0.75 ? '52,30,16' : '250,240,220'},${glaze.speckle * (0.15 + 0.6 * random())})`;
      g.beginPath();
      g.ellipse(random() * size, random() * size * 0.9, big ? 3.4 : 1.3, big ? 2.2 : 0.9, random() * 3, 0, 7);
      g.fill();
    }
  });
  const bump = canvasTexture(
    1024,
    (g, size) => {
      g.fillStyle = '#808080';
      g.fillRect(0, 0, size, size);
      // The rings that fingers leave on the wheel, and the orange skin of a fired glaze.
      for (let y = 0; y < size;) {
        const step = 9 + random() * 22;
        g.fillStyle = `rgba(${random() < 0.5 ? '255,255,255' : '0,0,0'},${0.06 + 0.16 * random()})`;
        g.fillRect(0, y, size, step * 0.5);
        y += step;
      }
      for (let i = 0; i < 16000; i++) {
        g.fillStyle = `rgba(${random() < 0.5 ? '255,255,255' : '0,0,0'},.05)`;
        g.fillRect(random() * size, random() * size, 3, 3);
      }
    },
    [1, 1],
    false,
  );
  return { map, bump };
}

/** A thrown pot: outside profile [r, y] from the foot to the rim, wall thickness; slightly out of round, as hands make it. */
function thrown(profile, wall, glazeName, seed, flat) {
  const random = seeded(seed);
  const outside = new THREE.SplineCurve(profile.map(([r, y]) => new THREE.Vector2(r, y))).getPoints(46);
  const rim = outside.at(-1);
  const inside = outside
    .slice(9)
    .reverse()
    // A steep wall is thick sideways, a flat one upwards: the inside must never dip below the outside.
    .map((p) =>
      flat
        ? new THREE.Vector2(p.x - wall * 0.3, p.y + wall * 0.9)
        : new THREE.Vector2(Math.max(0.0005, p.x - wall), Math.max(wall * 1.4, p.y - wall * 0.3)),
    );
  const lip = Array.from({ length: 7 }, (_, i) => {
    const a = (i / 6) * Math.PI;
    return new THREE.Vector2(rim.x - wall / 2 + (Math.cos(a) * wall) / 2, rim.y + (Math.sin(a) * wall) / 2);
  });
  const foot = [new THREE.Vector2(0.0005, 0.006), new THREE.Vector2(outside[0].x * 0.9, 0.002)];
  const points = [...foot, ...outside, ...lip, ...inside, new THREE.Vector2(0.0005, inside.at(-1).y)];
  const geometry = new THREE.LatheGeometry(points, 160);
  const p = geometry.attributes.position;
  const [a, b, c] = [random() * 6, random() * 6, 0.006 + random() * 0.012];
  for (let i = 0; i < p.count; i++) {
    const [x, y, z] = [p.getX(i), p.getY(i), p.getZ(i)];
    const angle = Math.atan2(z, x);
    const wobble = 1 + c * Math.sin(2 * angle + a) + c * 0.5 * Math.sin(3 * angle + b);
    p.setXYZ(i, x * wobble, y * (1 + c * 0.6 * Math.sin(angle + b)), z * wobble);
  }
  geometry.computeVertexNormals();
  const glaze = GLAZES[glazeName];
  const { map, bump } = glazeMaps(glaze, seed + 31);
  const material = new THREE.MeshPhysicalMaterial({
    map,
    bumpMap: bump,
    bumpScale: 0.6,
    roughness: glaze.roughness,
    clearcoat: 0.55,
    clearcoatRoughness: 0.12,
    side: THREE.DoubleSide,
  });
  const pot = new THREE.Group();
  pot.add(new THREE.Mesh(geometry, material));
  return { pot, material };
}

const SHAPES = {
  bowl: (k = 1) => [
    [0.034, 0.004],
    [0.036, 0.013],
    [0.055, 0.022],
    [0.083 * k, 0.044],
    [0.098 * k, 0.078 / k],
  ],
  open: (k = 1) => [
    [0.04, 0.004],
    [0.041, 0.012],
    [0.08, 0.02],
    [0.125 * k, 0.04],
    [0.148 * k, 0.062 / k],
  ],
  beaker: (k = 1) => [
    [0.031, 0.003],
    [0.035, 0.012],
    [0.04, 0.04],
    [0.039, 0.075],
    [0.043 * k, 0.105 * k],
  ],
  jug: (k = 1) => [
    [0.045, 0.004],
    [0.06, 0.02],
    [0.082 * k, 0.075],
    [0.062, 0.15],
    [0.04, 0.19],
    [0.046, 0.225],
  ],
  vase: (k = 1) => [
    [0.04, 0.004],
    [0.075 * k, 0.05],
    [0.085 * k, 0.11],
    [0.045, 0.175],
    [0.022, 0.21],
    [0.028, 0.245],
  ],
  plate: (k = 1) => [
    [0.06, 0.003],
    [0.062, 0.009],
    [0.1, 0.013],
    [0.132 * k, 0.024],
  ],
};

function handle(material) {
  const curve = new THREE.CatmullRomCurve3([
    new THREE.Vector3(0.036, 0.205, 0),
    new THREE.Vector3(0.082, 0.212, 0),
    new THREE.Vector3(0.118, 0.165, 0),
    new THREE.Vector3(0.106, 0.105, 0),
    new THREE.Vector3(0.074, 0.078, 0),
  ]);
  const mesh = new THREE.Mesh(new THREE.TubeGeometry(curve, 60, 0.0095, 18), material);
  mesh.scale.z = 1.5;
  return mesh;
}

/** Bare autumn twigs with a few leaves, for the vase. */
function twigs(seed) {
  const random = seeded(seed);
  const group = new THREE.Group();
  const bark = new THREE.MeshStandardMaterial({ color: '#3c2a1e', roughness: 0.9 });
  const leafShape = new THREE.Shape();
  leafShape.moveTo(0, 0);
  leafShape.bezierCurveTo(0.014, 0.008, 0.014, 0.03, 0, 0.046);
  leafShape.bezierCurveTo(-0.014, 0.03, -0.014, 0.008, 0, 0);
  const leafGeometry = new THREE.ShapeGeometry(leafShape, 10);
  for (let i = 0; i < 5; i++) {
    const a = random() * 6.28;
    const lean = 0.05 + random() * 0.12;
    const height = 0.38 + random() * 0.22;
    const points = [0, 0.35, 0.7, 1].map(
      (t) =>
        new THREE.Vector3(
          Math.cos(a) * lean * t * t + (random() - 0.5) * 0.025 * t,
          0.1 + height * t,
          Math.sin(a) * lean * t * t + (random() - 0.5) * 0.025 * t,
        ),
    );
    const curve = new THREE.CatmullRomCurve3(points);
    group.add(new THREE.Mesh(new THREE.TubeGeometry(curve, 40, 0.0026, 8), bark));
    for (let k = 0; k < 9; k++) {
      const leaf = new THREE.Mesh(
        leafGeometry,
        new THREE.MeshPhysicalMaterial({
          color: new THREE.Color().setHSL(0.05 + random() * 0.06, 0.62, 0.26 + random() * 0.16),
          roughness: 0.6,
          side: THREE.DoubleSide,
        }),
      );
      leaf.position.copy(curve.getPoint(0.35 + random() * 0.65));
      leaf.rotation.set(random() * 3 - 1.5, random() * 6, random() * 2 - 1);
      leaf.scale.setScalar(0.7 + random() * 0.6);
      group.add(leaf);
    }
  }
  return group;
}

function piece({
  shape,
  size = 1,
  glaze,
  seed,
  x = 0,
  y = 0,
  z = 0,
  turn = 0,
  wall = 0.0055,
  branch = false,
}) {
  const flat = shape === 'open' || shape === 'plate';
  const { pot, material } = thrown(SHAPES[shape](size), wall, glaze, seed, flat);
  if (shape === 'jug') pot.add(handle(material));
  if (branch) pot.add(twigs(seed));
  pot.position.set(x, y, z);
  pot.rotation.y = turn;
  return pot;
}

function linenCloth() {
  const geometry = new THREE.PlaneGeometry(0.62, 0.5, 140, 110);
  const p = geometry.attributes.position;
  for (let i = 0; i < p.count; i++) {
    const [x, y] = [p.getX(i), p.getY(i)];
    const fold = Math.sin(x * 34 + Math.sin(y * 11) * 1.6) * 0.0035 + Math.sin(y * 21 + x * 9) * 0.0025;
    p.setZ(i, 0.0085 + fold);
  }
  geometry.computeVertexNormals();
  const cloth = new THREE.Mesh(
    geometry,
    new THREE.MeshStandardMaterial({
      map: weave(seeded(61), [190, 176, 152], 0.4),
      roughness: 0.95,
      side: THREE.DoubleSide,
    }),
  );
  cloth.rotation.x = -Math.PI / 2;
  return cloth;
}

/** What the glaze mirrors: a dim room with a tall window and a white board opposite. */
function room(renderer) {
  const scene = new THREE.Scene();
  const wall = (color, w, h, x, y, z, turn, tilt = 0) => {
    const mesh = new THREE.Mesh(
      new THREE.PlaneGeometry(w, h),
      new THREE.MeshBasicMaterial({ color, side: THREE.DoubleSide }),
    );
    mesh.position.set(x, y, z);
    mesh.rotation.set(tilt, turn, 0);
    scene.add(mesh);
  };
  const bright = (k) => new THREE.Color(0.86 * k, 0.95 * k, 1.08 * k);
  scene.add(
    new THREE.Mesh(
      new THREE.BoxGeometry(9, 6, 9),
      new THREE.MeshBasicMaterial({ color: '#2b2723', side: THREE.BackSide }),
    ),
  );
  for (const [z, y] of [
    [-0.75, 1.7],
    [0.75, 1.7],
    [-0.75, 0.3],
    [0.75, 0.3],
  ])
    wall(bright(13), 1.35, 1.25, -3.6, y, z, Math.PI / 2);
  wall('#8d877e', 2.2, 1.6, 3.4, 0.5, 0.6, Math.PI / 2);
  wall('#57504a', 9, 9, 0, -2.9, 0, 0, Math.PI / 2);
  const generator = new THREE.PMREMGenerator(renderer);
  const texture = generator.fromScene(scene, 0.006).texture;
  generator.dispose();
  return texture;
}

/** plate: { pieces: piece[], cloth?, backdrop?, window? (its strength) } on top of what lens.js needs. */
export function buildPottery(plate, renderer) {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#3c3a37');
  scene.environment = room(renderer);
  scene.environmentIntensity = 0.32;
  const table = new THREE.Mesh(
    new THREE.PlaneGeometry(2.4, 1.5),
    new THREE.MeshStandardMaterial({ map: woodPlanks(seeded(9), 6, [116, 84, 56]), roughness: 0.5 }),
  );
  table.rotation.x = -Math.PI / 2;
  table.position.z = -0.1;
  scene.add(table);
  const back = new THREE.Mesh(
    new THREE.PlaneGeometry(8, 5),
    new THREE.MeshStandardMaterial({
      map: weave(seeded(21), plate.backdrop ?? [112, 110, 106], 0.12),
      roughness: 1,
    }),
  );
  back.position.set(0, 0.8, -1.5);
  scene.add(back);
  if (plate.cloth) {
    const cloth = linenCloth();
    cloth.rotation.z = plate.cloth.turn ?? 0.2;
    cloth.position.set(plate.cloth.x ?? 0, 0, plate.cloth.z ?? 0);
    scene.add(cloth);
  }
  for (const one of plate.pieces) scene.add(piece(one));
  shadowed(scene);
  back.castShadow = false;
  const pane = new THREE.SpotLight('#dfeaff', 46 * (plate.window ?? 1), 0, 0.62, 0.5, 2);
  pane.castShadow = true;
  pane.shadow.mapSize.set(2048, 2048);
  pane.shadow.bias = -0.0003;
  pane.shadow.normalBias = 0.002;
  pane.shadow.camera.near = 0.8;
  pane.shadow.camera.far = 6;
  pane.target.position.set(0.1, 0, -0.1);
  scene.add(pane, pane.target);
  const board = new THREE.SpotLight('#ffe9cf', 3.2, 0, 0.9, 1, 2);
  board.position.set(2.2, 0.9, 1.2);
  board.target.position.set(0, 0.05, 0);
  scene.add(board, board.target);
  // The window is a surface of 1.5 by 1.3 metres: every sample sees another point of it.
  const moveLamps = (x, y) => pane.position.set(-2.3 + 0.2 * x, 1.35 + 0.65 * y, 0.35 + 0.75 * x);
  return { scene, clear: 0x3c3a37, moveLamps };
}
