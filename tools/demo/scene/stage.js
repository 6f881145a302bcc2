// The made-up press night: two puppets on a small stage, lit like a theatre.
import * as THREE from 'three';
import { limb, seeded, shadowed, weave, woodPlanks } from './parts.js';

/** A cloth bell with folds: the puppet's dress or coat. */
function cloth(height, top, bottom, folds, depth, phase) {
  const rows = 48;
  const around = 160;
  const geometry = new THREE.CylinderGeometry(top, bottom, height, around, rows, true);
  const p = geometry.attributes.position;
  for (let i = 0; i < p.count; i++) {
    const x = p.getX(i),
      y = p.getY(i),
      z = p.getZ(i);
    const angle = Math.atan2(z, x);
    const down = 0.5 - y / height;
    const wave =
      1 +
      depth *
        down *
        (Math.sin(angle * folds + phase) + 0.5 * Math.sin(angle * (folds * 0.5 + 1) + phase * 2 + down * 3));
    p.setX(i, x * wave);
    p.setZ(i, z * wave);
  }
  geometry.computeVertexNormals();
  return geometry;
}

function buildHead(look, pose) {
  const head = new THREE.Group();
  const skin = new THREE.MeshPhysicalMaterial({
    color: look.skin,
    roughness: 0.42,
    clearcoat: 0.35,
    clearcoatRoughness: 0.35,
  });
  const skull = new THREE.Mesh(new THREE.SphereGeometry(0.5, 64, 48), skin);
  skull.scale.set(0.92, 1.08, 0.94);
  head.add(skull);
  const chin = new THREE.Mesh(new THREE.SphereGeometry(0.24, 40, 30), skin);
  chin.position.set(0, -0.4, 0.2);
  head.add(chin);
  const nose = new THREE.Mesh(new THREE.ConeGeometry(0.1 * look.nose, 0.34 * look.nose, 32), skin);
  nose.position.set(0, -0.04, 0.56);
  nose.rotation.x = Math.PI / 2 - 0.25;
  head.add(nose);
  const tip = new THREE.Mesh(
    new THREE.SphereGeometry(0.085 * look.nose, 24, 20),
    new THREE.MeshPhysicalMaterial({ color: look.blush, roughness: 0.4, clearcoat: 0.4 }),
  );
  tip.position.set(0, -0.02, 0.5 + 0.2 * look.nose);
  head.add(tip);
  for (const side of [-1, 1]) {
    const cheek = new THREE.Mesh(
      new THREE.SphereGeometry(0.15, 32, 24),
      new THREE.MeshPhysicalMaterial({ color: look.blush, roughness: 0.6, transparent: true, opacity: 0.55 }),
    );
    cheek.position.set(side * 0.25, -0.16, 0.36);
    cheek.scale.z = 0.55;
    head.add(cheek);
    const socket = new THREE.Vector3(side * 0.19, 0.12, 0.39);
    const white = new THREE.Mesh(
      new THREE.SphereGeometry(0.125, 40, 30),
      new THREE.MeshPhysicalMaterial({ color: '#efe9dc', roughness: 0.12, clearcoat: 1 }),
    );
    white.position.copy(socket);
    head.add(white);
    const iris = new THREE.Mesh(
      new THREE.SphereGeometry(0.068, 30, 24),
      new THREE.MeshPhysicalMaterial({ color: look.iris, roughness: 0.15, clearcoat: 1 }),
    );
    iris.position.copy(socket).add(new THREE.Vector3(pose.gaze * 0.04, -0.005, 0.082));
    iris.scale.z = 0.6;
    head.add(iris);
    const pupil = new THREE.Mesh(
      new THREE.SphereGeometry(0.036, 24, 18),
      new THREE.MeshPhysicalMaterial({ color: '#050505', roughness: 0.08, clearcoat: 1 }),
    );
    pupil.position.copy(iris.position).add(new THREE.Vector3(0, 0, 0.022));
    head.add(pupil);
    // The lid is a shell a little larger than the eye; it turns down over it. open 1 = wide, 0 = shut.
    const lid = new THREE.Mesh(
      new THREE.SphereGeometry(0.139, 40, 24, 0, Math.PI * 2, 0, Math.PI / 2),
      new THREE.MeshPhysicalMaterial({ color: look.lid, roughness: 0.45, side: THREE.DoubleSide }),
    );
    lid.position.copy(socket);
    lid.rotation.x = -0.35 + (1 - pose.open) * 1.65;
    head.add(lid);
    const brow = new THREE.Mesh(
      new THREE.TorusGeometry(0.13, 0.024, 12, 30, 2.1),
      new THREE.MeshStandardMaterial({ color: look.hair, roughness: 0.9 }),
    );
    brow.position.set(side * 0.19, 0.2 + pose.brow * 0.05, 0.42);
    brow.rotation.z = 0.52 + side * pose.brow * 0.15;
    head.add(brow);
    const ear = new THREE.Mesh(new THREE.SphereGeometry(0.12, 24, 18), skin);
    ear.position.set(side * 0.46, 0, 0.02);
    ear.scale.set(0.5, 1, 0.8);
    head.add(ear);
  }
  const mouth = new THREE.Mesh(
    new THREE.SphereGeometry(0.13, 30, 20),
    new THREE.MeshPhysicalMaterial({ color: '#4a0f12', roughness: 0.5 }),
  );
  mouth.position.set(0, -0.31, 0.37);
  mouth.scale.set(1.15, 0.15 + pose.mouth * 0.6, 0.5);
  head.add(mouth);
  const lip = new THREE.Mesh(
    new THREE.TorusGeometry(0.135, 0.022, 12, 40),
    new THREE.MeshPhysicalMaterial({ color: '#9b3a33', roughness: 0.4, clearcoat: 0.4 }),
  );
  lip.position.set(0, -0.31, 0.405);
  lip.scale.set(1.05, 0.25 + pose.mouth * 0.6, 0.6);
  head.add(lip);
  addHair(head, look);
  return head;
}

function addHair(head, look) {
  const random = seeded(look.seed);
  const material = new THREE.MeshStandardMaterial({ color: look.hair, roughness: 0.85 });
  for (let i = 0; i < look.strands; i++) {
    const angle = Math.PI * (0.95 + 1.1 * random());
    const up = 0.08 + random() * 0.5;
    const r = 0.5;
    const root = new THREE.Vector3(
      Math.cos(angle) * r * Math.cos(up),
      Math.sin(up) * r * 1.05 + 0.05,
      Math.sin(angle) * r * Math.cos(up),
    );
    const drop = look.hairLength * (0.6 + random() * 0.6);
    const curve = new THREE.CatmullRomCurve3([
      root,
      root
        .clone()
        .multiplyScalar(1.16)
        .add(new THREE.Vector3(0, 0.02, 0)),
      root
        .clone()
        .multiplyScalar(1.2)
        .add(new THREE.Vector3((random() - 0.5) * 0.12, -drop * 0.5, (random() - 0.5) * 0.12)),
      root
        .clone()
        .multiplyScalar(1.12)
        .add(new THREE.Vector3((random() - 0.5) * 0.2, -drop, (random() - 0.5) * 0.2)),
    ]);
    head.add(new THREE.Mesh(new THREE.TubeGeometry(curve, 14, 0.022 + random() * 0.016, 7), material));
  }
  if (look.hat === 'top') {
    const felt = new THREE.MeshStandardMaterial({ color: '#1d2633', roughness: 0.85 });
    const crown = new THREE.Mesh(new THREE.CylinderGeometry(0.4, 0.35, 0.56, 56), felt);
    crown.position.set(0, 0.76, -0.05);
    const brim = new THREE.Mesh(new THREE.CylinderGeometry(0.62, 0.62, 0.035, 64), felt);
    brim.position.set(0, 0.49, -0.05);
    const band = new THREE.Mesh(
      new THREE.CylinderGeometry(0.365, 0.358, 0.1, 56),
      new THREE.MeshStandardMaterial({ color: '#b23b2a', roughness: 0.5 }),
    );
    band.position.set(0, 0.56, -0.05);
    for (const part of [crown, brim, band]) {
      part.rotation.z = -0.1;
      head.add(part);
    }
  } else {
    const cap = new THREE.Mesh(
      new THREE.SphereGeometry(0.53, 48, 30, 0, Math.PI * 2, 0, Math.PI * 0.42),
      material,
    );
    cap.position.set(0, 0.06, -0.03);
    head.add(cap);
    const gold = new THREE.MeshPhysicalMaterial({ color: '#d8a437', roughness: 0.25, metalness: 0.9 });
    const ring = new THREE.Mesh(new THREE.TorusGeometry(0.36, 0.03, 16, 60), gold);
    ring.rotation.x = Math.PI / 2;
    ring.position.set(0, 0.47, 0);
    head.add(ring);
    for (let i = 0; i < 9; i++) {
      const a = (i / 9) * Math.PI * 2;
      const spike = new THREE.Mesh(new THREE.ConeGeometry(0.055, 0.2, 16), gold);
      spike.position.set(Math.cos(a) * 0.36, 0.58, Math.sin(a) * 0.36);
      head.add(spike);
    }
  }
}

function buildPuppet(look, pose) {
  const random = seeded(look.seed + 7);
  const puppet = new THREE.Group();
  const fabric = new THREE.MeshPhysicalMaterial({
    map: weave(random, look.cloth, 0.3),
    roughness: 0.8,
    sheen: 1,
    sheenRoughness: 0.4,
    sheenColor: new THREE.Color(look.sheen),
    side: THREE.DoubleSide,
  });
  const trim = new THREE.MeshPhysicalMaterial({ color: look.trim, roughness: 0.45, clearcoat: 0.2 });
  const skin = new THREE.MeshPhysicalMaterial({ color: look.skin, roughness: 0.42, clearcoat: 0.35 });
  const body = new THREE.Mesh(
    cloth(1.5, 0.26, look.flare, look.folds, 0.16, pose.swing * 2 + look.seed),
    fabric,
  );
  body.position.y = 0.85;
  puppet.add(body);
  const collar = new THREE.Mesh(new THREE.TorusGeometry(0.28, 0.085, 16, 60), trim);
  collar.rotation.x = Math.PI / 2;
  collar.position.y = 1.6;
  puppet.add(collar);
  for (let i = 0; i < 4; i++) {
    const button = new THREE.Mesh(new THREE.SphereGeometry(0.042, 20, 16), trim);
    button.position.set(0, 1.42 - i * 0.2, 0.29 + i * 0.055 + look.flare * 0.05);
    button.scale.z = 0.5;
    puppet.add(button);
  }
  const hands = [];
  for (const side of [-1, 1]) {
    const lift = side < 0 ? pose.left : pose.right;
    const shoulder = new THREE.Vector3(side * 0.28, 1.48, 0.02);
    const elbow = shoulder
      .clone()
      .add(new THREE.Vector3(side * (0.34 - 0.06 * Math.abs(lift)), -0.34 + lift * 0.42, 0.14));
    const wrist = elbow
      .clone()
      .add(new THREE.Vector3(side * (0.1 + 0.16 * (1 - lift)), -0.12 + lift * 0.5, 0.22 - 0.1 * lift));
    puppet.add(limb(shoulder, elbow, 0.14, 0.12, fabric), limb(elbow, wrist, 0.13, 0.16, fabric));
    const hand = new THREE.Group();
    hand.add(new THREE.Mesh(new THREE.SphereGeometry(0.095, 24, 18), skin));
    for (let f = 0; f < 4; f++) {
      const spread = (f - 1.5) * 0.05;
      hand.add(
        limb(
          new THREE.Vector3(spread, 0.05, 0),
          new THREE.Vector3(spread * 1.9, 0.2, 0.02),
          0.028,
          0.02,
          skin,
        ),
      );
    }
    hand.add(
      limb(
        new THREE.Vector3(-side * 0.07, 0, 0),
        new THREE.Vector3(-side * 0.15, 0.09, 0.03),
        0.03,
        0.022,
        skin,
      ),
    );
    hand.position.copy(wrist).add(new THREE.Vector3(side * 0.02, 0.06 * lift, 0.04));
    hand.rotation.z = -side * (1.1 - lift * 1.2);
    puppet.add(hand);
    hands.push(hand.position.clone());
    const boot = new THREE.Mesh(
      new THREE.SphereGeometry(0.15, 30, 22),
      new THREE.MeshPhysicalMaterial({ color: '#2a1710', roughness: 0.35, clearcoat: 0.6 }),
    );
    boot.scale.set(0.85, 0.6, 1.45);
    boot.position.set(side * 0.2, 0.09, 0.12 + side * pose.swing * 0.12);
    puppet.add(boot);
  }
  const head = buildHead(look, pose);
  head.position.set(0, 2.02, 0.04);
  head.rotation.set(pose.nod, pose.turn, pose.tilt, 'YXZ');
  puppet.add(head);
  const string = new THREE.MeshStandardMaterial({ color: '#cdbf9f', roughness: 0.7 });
  for (const from of [...hands, new THREE.Vector3(-0.3, 2.5, 0), new THREE.Vector3(0.3, 2.5, 0)]) {
    puppet.add(limb(from, new THREE.Vector3(from.x * 0.6, 7, from.z * 0.3), 0.006, 0.006, string));
  }
  puppet.position.set(pose.x, pose.y, pose.z);
  puppet.rotation.set(0, pose.face, pose.lean);
  return shadowed(puppet);
}

function buildSet(random) {
  const set = new THREE.Group();
  const floor = new THREE.Mesh(
    new THREE.PlaneGeometry(16, 10),
    new THREE.MeshPhysicalMaterial({
      map: woodPlanks(random, 14, [128, 84, 48]),
      roughness: 0.42,
      clearcoat: 0.25,
      clearcoatRoughness: 0.4,
    }),
  );
  floor.rotation.x = -Math.PI / 2;
  set.add(floor);
  const curtain = new THREE.PlaneGeometry(18, 9, 700, 24);
  const p = curtain.attributes.position;
  for (let i = 0; i < p.count; i++) {
    const x = p.getX(i),
      y = p.getY(i);
    const fold = Math.sin(x * 3.1 + 0.5 * Math.sin(x * 0.9)) * 0.3 + Math.sin(x * 7.3 + y * 0.15) * 0.07;
    p.setZ(i, fold * (1 - 0.03 * y));
  }
  curtain.computeVertexNormals();
  const velvet = new THREE.MeshPhysicalMaterial({
    map: weave(random, [112, 18, 26], 0.2),
    roughness: 0.95,
    sheen: 1,
    sheenRoughness: 0.35,
    sheenColor: new THREE.Color('#7d2a30'),
  });
  const back = new THREE.Mesh(curtain, velvet);
  back.position.set(0, 4, -3.4);
  set.add(back);
  const wood = new THREE.MeshPhysicalMaterial({ map: woodPlanks(random, 5, [150, 110, 70]), roughness: 0.6 });
  for (const [x, z, size, turn] of [
    [-3.1, -1.7, 0.9, 0.3],
    [-2.6, -1.9, 0.55, -0.4],
    [3.2, -1.9, 0.75, 0.7],
  ]) {
    const crate = new THREE.Mesh(new THREE.BoxGeometry(size, size, size), wood);
    crate.position.set(x, size / 2 + (size === 0.55 ? 0.9 : 0), z);
    crate.rotation.y = turn;
    set.add(crate);
  }
  const moon = new THREE.Mesh(
    new THREE.SphereGeometry(0.75, 48, 36),
    new THREE.MeshStandardMaterial({
      color: '#f2e0b0',
      emissive: '#d8a95c',
      emissiveIntensity: 0.85,
      roughness: 0.9,
    }),
  );
  moon.position.set(2.5, 4.3, -2.8);
  set.add(moon);
  for (let i = 0; i < 13; i++) {
    const bulb = new THREE.Mesh(
      new THREE.SphereGeometry(0.05, 16, 12),
      new THREE.MeshStandardMaterial({ color: '#fff', emissive: '#ffcf86', emissiveIntensity: 9 }),
    );
    const x = -6 + i;
    bulb.position.set(x, 4.7 + 0.16 * Math.cos(x * 1.3), -2.75);
    set.add(bulb);
  }
  return shadowed(set);
}

const LOOKS = {
  baron: {
    seed: 3,
    skin: '#d9a27c',
    blush: '#c4664f',
    lid: '#b9805c',
    iris: '#3c6a4d',
    hair: '#33231a',
    strands: 90,
    hairLength: 0.35,
    nose: 1.35,
    hat: 'top',
    cloth: [36, 58, 92],
    sheen: '#5a7fb0',
    trim: '#d2a640',
    flare: 0.62,
    folds: 8,
  },
  queen: {
    seed: 11,
    skin: '#e6bd9c',
    blush: '#d47a70',
    lid: '#c79aa0',
    iris: '#5a4630',
    hair: '#8a3b1c',
    strands: 150,
    hairLength: 0.95,
    nose: 0.8,
    hat: 'crown',
    cloth: [150, 112, 40],
    sheen: '#e0c070',
    trim: '#7c1f30',
    flare: 0.8,
    folds: 11,
  },
};
const STILL = {
  x: 0,
  y: 0,
  z: 0,
  face: 0,
  lean: 0,
  turn: 0,
  nod: 0,
  tilt: 0,
  gaze: 0,
  open: 1,
  brow: 0,
  mouth: 0.2,
  left: 0,
  right: 0,
  swing: 0,
};

/** plate: { baron?, queen?, key? } on top of what lens.js needs. */
export function buildStage(plate) {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#070506');
  scene.add(buildSet(seeded(5)));
  if (plate.baron) scene.add(buildPuppet(LOOKS.baron, { ...STILL, ...plate.baron }));
  if (plate.queen) scene.add(buildPuppet(LOOKS.queen, { ...STILL, ...plate.queen }));
  const key = new THREE.SpotLight('#ffd9a8', 420 * (plate.key ?? 1), 0, 0.5, 0.55, 2);
  const rim = new THREE.SpotLight('#8fb4ff', 260, 0, 0.6, 0.6, 2);
  const fill = new THREE.SpotLight('#ff9a6a', 60, 0, 0.9, 1, 2);
  for (const lamp of [key, rim, fill]) {
    lamp.castShadow = true;
    lamp.shadow.mapSize.set(2048, 2048);
    lamp.shadow.bias = -0.0006;
    lamp.shadow.normalBias = 0.02;
    lamp.shadow.camera.near = 2;
    lamp.shadow.camera.far = 20;
    scene.add(lamp, lamp.target);
  }
  key.target.position.set(0, 1.2, 0);
  rim.target.position.set(0, 1.3, 0);
  fill.target.position.set(0, 1, -0.5);
  scene.add(new THREE.HemisphereLight('#403848', '#2a1a10', 0.9));
  const moveLamps = (x, y) => {
    const [kx, ky] = [x * 0.4, y * 0.4];
    key.position.set(-3.6 + kx, 6.4 + ky, 5.2);
    rim.position.set(4.6 + ky, 5.8 + kx, -2.2);
    fill.position.set(3.5 + kx, 1.4 + ky * 0.5, 5.5);
  };
  return { scene, clear: 0x070506, moveLamps };
}
