// The made-up regatta: model yachts on a park pond on a bright October morning.
import * as THREE from 'three';
import { Water } from 'water';
import { canvasTexture, limb, seeded, woodPlanks } from './parts.js';

const POND = 15;

/** Waves for the water's normals: sines whose wave numbers are whole, so that the tile meets itself. */
function waveNormals() {
  const size = 512;
  const random = seeded(33);
  const waves = Array.from({ length: 60 }, () => {
    const k = 2 + Math.floor(random() ** 1.6 * 26);
    const angle = (random() - 0.5) * 2.2 + 0.5;
    return {
      kx: Math.round(k * Math.cos(angle)),
      ky: Math.round(k * Math.sin(angle)),
      phase: random() * 6.283,
      high: 1 / (2 + k),
    };
  });
  const data = new Uint8Array(size * size * 4);
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      let [dx, dy] = [0, 0];
      for (const w of waves) {
        const c = w.high * Math.cos((2 * Math.PI * (w.kx * x + w.ky * y)) / size + w.phase);
        dx += w.kx * c;
        dy += w.ky * c;
      }
      const n = new THREE.Vector3(-dx * 0.075, -dy * 0.075, 1).normalize();
      const i = (y * size + x) * 4;
      data[i] = (n.x * 0.5 + 0.5) * 255;
      data[i + 1] = (n.y * 0.5 + 0.5) * 255;
      data[i + 2] = (n.z * 0.5 + 0.5) * 255;
      data[i + 3] = 255;
    }
  }
  const texture = new THREE.DataTexture(data, size, size);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  texture.minFilter = THREE.LinearMipmapLinearFilter;
  texture.magFilter = THREE.LinearFilter;
  texture.generateMipmaps = true;
  texture.needsUpdate = true;
  return texture;
}

function hullGeometry() {
  const [along, around] = [60, 28];
  const positions = [];
  const index = [];
  for (let i = 0; i <= along; i++) {
    const t = i / along; // 0 the stern, 1 the bow
    const breadth =
      0.115 * Math.min(1, Math.sqrt(t / 0.16 + 0.55)) * Math.pow(Math.max(0, 1 - t ** 3.2), 0.8);
    const depth = 0.085 * Math.pow(Math.sin(Math.PI * (0.12 + 0.86 * t)), 0.6);
    const sheer = 0.075 + 0.035 * (2 * t - 0.8) ** 2;
    for (let j = 0; j <= around; j++) {
      const a = (j / around) * Math.PI;
      const s = Math.sin(a);
      positions.push(
        -0.5 + t,
        sheer - (sheer + depth) * s ** 0.62,
        breadth * Math.cos(a) * (0.92 + 0.08 * s),
      );
    }
  }
  for (let i = 0; i < along; i++) {
    for (let j = 0; j < around; j++) {
      const a = i * (around + 1) + j;
      index.push(a, a + 1, a + around + 1, a + 1, a + around + 2, a + around + 1);
    }
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  geometry.setIndex(index);
  geometry.computeVertexNormals();
  // The deck joins the two edges, one strip a section.
  const deckPositions = [];
  const uv = [];
  const deckIndex = [];
  for (let i = 0; i <= along; i++) {
    for (const j of [0, around]) {
      const at = (i * (around + 1) + j) * 3;
      deckPositions.push(positions[at], positions[at + 1] - 0.004, positions[at + 2]);
      uv.push(positions[at + 2] * 4 + 0.5, i / along);
    }
    if (i < along) deckIndex.push(2 * i, 2 * i + 1, 2 * i + 2, 2 * i + 1, 2 * i + 3, 2 * i + 2);
  }
  const deck = new THREE.BufferGeometry();
  deck.setAttribute('position', new THREE.Float32BufferAttribute(deckPositions, 3));
  deck.setAttribute('uv', new THREE.Float32BufferAttribute(uv, 2));
  deck.setIndex(deckIndex);
  deck.computeVertexNormals();
  return { geometry, deck };
}

/** A sail: a triangle with belly. luff from [0, low] to [0, high], foot back to `foot`; side ±1 is the lee side. */
function sailGeometry(low, high, foot, belly, side) {
  const n = 30;
  const positions = [];
  const uv = [];
  const index = [];
  for (let i = 0; i <= n; i++) {
    const up = i / n;
    const chord = foot * (1 - up) ** 0.82 * (1 + 0.16 * Math.sin(up * Math.PI));
    for (let j = 0; j <= n; j++) {
      const back = j / n;
      const draft = belly * chord * Math.sin(Math.PI * back ** 0.75) * (0.6 + 0.5 * Math.sin(Math.PI * up));
      const twist = chord * back * up * 0.22;
      positions.push(-chord * back, low + (high - low) * up - 0.03 * back * (1 - up), side * (draft + twist));
      uv.push(back, up);
    }
  }
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      const a = i * (n + 1) + j;
      index.push(a, a + 1, a + n + 1, a + 1, a + n + 2, a + n + 1);
    }
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  geometry.setAttribute('uv', new THREE.Float32BufferAttribute(uv, 2));
  geometry.setIndex(index);
  geometry.computeVertexNormals();
  return geometry;
}

function sailCloth(number, stripe, seed) {
  const random = seeded(seed);
  const map = canvasTexture(1024, (g, size) => {
    g.fillStyle = '#ece6d8';
    g.fillRect(0, 0, size, size);
    for (let i = 1; i < 9; i++) {
      const y = (i / 9) * size;
      g.fillStyle = 'rgba(96,84,60,.34)';
      g.fillRect(0, y, size, 3);
      g.fillStyle = `rgba(${random() < 0.5 ? '255,255,255' : '150,136,104'},.09)`;
      g.fillRect(0, y - size / 9, size, size / 9);
    }
    g.fillStyle = stripe;
    g.fillRect(0, size * 0.8, size, size * 0.055);
    if (number) {
      g.fillStyle = '#20242b';
      g.font = '700 190px sans-serif';
      g.textAlign = 'center';
      // The sail narrows upwards: the figures are drawn wider than they will look.
      g.setTransform(-1.5, 0, 0, 0.62, size * 0.42, size * 0.62);
      g.fillText(number, 0, 0);
      g.resetTransform();
    }
    for (let i = 0; i < 9000; i++) {
      g.fillStyle = `rgba(70,60,40,${random() * 0.05})`;
      g.fillRect(random() * size, random() * size, 2, 2);
    }
  });
  return new THREE.MeshStandardMaterial({
    map,
    roughness: 0.78,
    side: THREE.DoubleSide,
    emissiveMap: map,
    emissive: '#ffffff',
    emissiveIntensity: 0.16, // the light that comes through the cloth
  });
}

function foam(seed, length, width) {
  const random = seeded(seed);
  const texture = canvasTexture(512, (g, size) => {
    g.clearRect(0, 0, size, size);
    for (let i = 0; i < 900; i++) {
      const x = random() ** 0.8;
      const spread = 0.08 + 0.34 * x;
      const edge = random() < 0.5 ? -1 : 1;
      const y = 0.5 + edge * spread * (0.75 + 0.3 * random()) * (random() < 0.75 ? 1 : random());
      g.fillStyle = `rgba(255,255,255,${(1 - x) ** 1.4 * 0.34 * random()})`;
      g.beginPath();
      g.ellipse(x * size, y * size, 3 + random() * 12, 1.5 + random() * 3, 0, 0, 7);
      g.fill();
    }
  });
  const mesh = new THREE.Mesh(
    new THREE.PlaneGeometry(length, width),
    new THREE.MeshBasicMaterial({ map: texture, transparent: true, depthWrite: false, color: '#b9c2c4' }),
  );
  mesh.rotation.x = -Math.PI / 2;
  return mesh;
}

function buildYacht(y) {
  const boat = new THREE.Group();
  const { geometry, deck } = hullGeometry();
  const paint = new THREE.MeshPhysicalMaterial({
    color: y.hull,
    roughness: 0.22,
    clearcoat: 0.9,
    clearcoatRoughness: 0.08,
    side: THREE.DoubleSide,
  });
  boat.add(new THREE.Mesh(geometry, paint));
  boat.add(
    new THREE.Mesh(
      deck,
      new THREE.MeshStandardMaterial({
        map: woodPlanks(seeded(y.seed), 9, [176, 130, 78]),
        roughness: 0.45,
        side: THREE.DoubleSide,
      }),
    ),
  );
  const brass = new THREE.MeshStandardMaterial({ color: '#b08b45', roughness: 0.3, metalness: 0.9 });
  const spruce = new THREE.MeshStandardMaterial({ color: '#b98a52', roughness: 0.5 });
  const house = new THREE.Mesh(
    new THREE.BoxGeometry(0.16, 0.04, 0.09),
    new THREE.MeshPhysicalMaterial({ color: '#7a4523', roughness: 0.3, clearcoat: 0.6 }),
  );
  house.position.set(-0.12, 0.098, 0);
  boat.add(house);
  const v = (x, yy, z) => new THREE.Vector3(x, yy, z);
  boat.add(limb(v(0.08, 0.07, 0), v(0.06, 1.52, 0), 0.011, 0.005, spruce));
  const line = new THREE.MeshStandardMaterial({ color: '#3a352c', roughness: 0.8 });
  for (const z of [-0.1, 0.1]) boat.add(limb(v(0.06, 0.09, z), v(0.063, 1.1, 0), 0.0016, 0.0016, line));
  boat.add(limb(v(0.49, 0.12, 0), v(0.06, 1.3, 0), 0.0016, 0.0016, line));
  boat.add(limb(v(-0.48, 0.09, 0), v(0.06, 1.52, 0), 0.0016, 0.0016, line));
  const rig = new THREE.Group();
  rig.position.set(0.07, 0, 0);
  rig.rotation.y = y.sheet * y.lee;
  rig.add(new THREE.Mesh(sailGeometry(0.2, 1.46, 0.5, 0.13, y.lee), sailCloth(y.number, y.stripe, y.seed)));
  rig.add(limb(v(0, 0.19, 0), v(-0.52, 0.16, 0), 0.006, 0.005, spruce));
  boat.add(rig);
  const jib = new THREE.Group();
  jib.position.set(0.47, 0, 0);
  const jibMesh = new THREE.Mesh(
    sailGeometry(0.16, 1.24, 0.36, 0.16, y.lee),
    sailCloth('', y.stripe, y.seed + 1),
  );
  // The luff of the jib runs up the forestay.
  const p = jibMesh.geometry.attributes.position;
  for (let i = 0; i < p.count; i++) p.setX(i, p.getX(i) - ((p.getY(i) - 0.12) / 1.18) * 0.4);
  jibMesh.geometry.computeVertexNormals();
  jib.rotation.y = y.sheet * 0.35 * y.lee;
  jib.add(jibMesh);
  boat.add(jib);
  const winch = new THREE.Mesh(new THREE.CylinderGeometry(0.016, 0.018, 0.025, 18), brass);
  winch.position.set(-0.28, 0.095, 0.03);
  boat.add(winch);
  boat.traverse((o) => {
    if (o.isMesh) o.castShadow = o.receiveShadow = true;
  });
  boat.rotation.set(y.heel * y.lee, 0, y.pitch ?? 0);
  boat.position.y = -0.006;
  const group = new THREE.Group();
  const wake = foam(y.seed + 5, 1.5, 0.75);
  wake.position.set(-0.85, 0.008, 0);
  wake.rotation.z = Math.PI;
  const bow = foam(y.seed + 6, 0.95, 0.42);
  bow.position.set(0.0, 0.009, 0);
  bow.rotation.z = Math.PI;
  group.add(boat, wake, bow);
  group.position.set(y.x, 0, y.z);
  group.rotation.y = y.course;
  return group;
}

function buildBuoy(x, z, tilt) {
  const buoy = new THREE.Group();
  const paint = new THREE.MeshPhysicalMaterial({ color: '#d8571c', roughness: 0.4, clearcoat: 0.4 });
  const body = new THREE.Mesh(new THREE.SphereGeometry(0.17, 40, 30), paint);
  body.position.y = 0.08;
  body.scale.y = 1.1;
  const collar = new THREE.Mesh(
    new THREE.CylinderGeometry(0.172, 0.172, 0.05, 40),
    new THREE.MeshStandardMaterial({ color: '#ece8de', roughness: 0.5 }),
  );
  collar.position.y = 0.12;
  const pole = limb(
    new THREE.Vector3(0, 0.2, 0),
    new THREE.Vector3(0, 0.85, 0),
    0.008,
    0.006,
    new THREE.MeshStandardMaterial({ color: '#d8d4c8', roughness: 0.5 }),
  );
  const flag = new THREE.Mesh(
    new THREE.PlaneGeometry(0.26, 0.17, 20, 8),
    new THREE.MeshStandardMaterial({ color: '#1f5f8a', roughness: 0.8, side: THREE.DoubleSide }),
  );
  const p = flag.geometry.attributes.position;
  for (let i = 0; i < p.count; i++) p.setZ(i, Math.sin((p.getX(i) + 0.13) * 22 + tilt * 9) * 0.02);
  flag.geometry.computeVertexNormals();
  flag.position.set(0.13, 0.75, 0);
  buoy.add(body, collar, pole, flag);
  buoy.traverse((o) => {
    if (o.isMesh) o.castShadow = o.receiveShadow = true;
  });
  buoy.position.set(x, 0, z);
  buoy.rotation.z = tilt;
  return buoy;
}

/** A ring of autumn trees: trunks, and crowns of single leaves. */
function buildTrees(leafSize) {
  const random = seeded(17);
  const leaves = [];
  const group = new THREE.Group();
  const bark = new THREE.MeshStandardMaterial({ color: '#41352b', roughness: 1 });
  const tones = [
    [0.09, 0.55, 0.3],
    [0.12, 0.6, 0.34],
    [0.055, 0.6, 0.28],
    [0.24, 0.34, 0.2],
    [0.2, 0.42, 0.25],
    [0.28, 0.3, 0.16],
  ];
  for (let i = 0; i < 52; i++) {
    const a = Math.PI * (0.5 + (i / 52) * 2) + (random() - 0.5) * 0.1;
    const r = 19 + random() * 9;
    const [x, z] = [Math.cos(a) * r, Math.sin(a) * r - 2];
    if (z > 11) continue; // the photographer's own bank
    const height = 5 + random() * 4;
    const tone = tones[Math.floor(random() * tones.length)];
    const foot = new THREE.Vector3(x, 0.2, z);
    const top = new THREE.Vector3(x + random() - 0.5, height * 0.7, z + random() - 0.5);
    group.add(limb(foot, top, 0.24, 0.1, bark));
    for (let b = 0; b < 10; b++) {
      const centre = new THREE.Vector3(
        x + (random() - 0.5) * 3.4,
        height * (0.36 + 0.64 * random()),
        z + (random() - 0.5) * 3.4,
      );
      if (b < 4) group.add(limb(top.clone().lerp(foot, 0.45 * random()), centre, 0.08, 0.03, bark));
      const size = 0.8 + random() * 1.1;
      for (let k = 0; k < 560; k++) {
        const u = random() * 2 - 1;
        const w = random() * 6.283;
        const s = size * (0.55 + 0.5 * random() ** 0.4);
        const q = Math.sqrt(1 - u * u);
        leaves.push({
          at: [centre.x + s * q * Math.cos(w), centre.y + s * u * 0.8, centre.z + s * q * Math.sin(w)],
          tone: [tone[0] + (random() - 0.5) * 0.035, tone[1], tone[2] * (0.65 + 0.6 * random() + 0.15 * u)],
          size: 0.055 + random() * 0.085,
        });
      }
    }
  }
  // Bushes and reeds by the kerb.
  for (let i = 0; i < 11000; i++) {
    const a = random() * 6.283;
    const r = POND + 1 + random() ** 2 * 3.4;
    const [x, z] = [Math.cos(a) * r, Math.sin(a) * r - 2];
    if (z > 7) continue;
    const clump = 0.5 + 0.5 * Math.sin(a * 19) * Math.sin(a * 7 + 1);
    leaves.push({
      at: [x, 0.25 + random() * 1.2 * clump, z],
      tone: [0.2 + random() * 0.09, 0.36, 0.13 + random() * 0.12],
      size: 0.06 + random() * 0.1,
    });
  }
  const shape = new THREE.Shape();
  shape.moveTo(0, -1);
  shape.quadraticCurveTo(0.7, -0.1, 0, 1);
  shape.quadraticCurveTo(-0.7, -0.1, 0, -1);
  const mesh = new THREE.InstancedMesh(
    new THREE.ShapeGeometry(shape, 3),
    new THREE.MeshLambertMaterial({ side: THREE.DoubleSide }),
    leaves.length,
  );
  const dummy = new THREE.Object3D();
  const color = new THREE.Color();
  leaves.forEach((leaf, i) => {
    dummy.position.set(...leaf.at);
    dummy.rotation.set(random() * 6, random() * 6, random() * 6);
    dummy.scale.setScalar(leaf.size * leafSize);
    dummy.updateMatrix();
    mesh.setMatrixAt(i, dummy.matrix);
    mesh.setColorAt(i, color.setHSL(...leaf.tone));
  });
  mesh.frustumCulled = false;
  group.add(mesh);
  return group;
}

function buildBank() {
  const bank = new THREE.Group();
  const random = seeded(23);
  const grassMap = canvasTexture(
    1024,
    (g, size) => {
      g.fillStyle = '#56622f';
      g.fillRect(0, 0, size, size);
      for (let i = 0; i < 60000; i++) {
        g.fillStyle = `hsla(${60 + random() * 40},${30 + random() * 25}%,${16 + random() * 26}%,.5)`;
        g.fillRect(random() * size, random() * size, 2, 5);
      }
      for (let i = 0; i < 2400; i++) {
        g.fillStyle = `hsl(${20 + random() * 26},60%,${30 + random() * 18}%)`;
        g.fillRect(random() * size, random() * size, 4, 3);
      }
    },
    [10, 10],
  );
  const grass = new THREE.Mesh(
    new THREE.RingGeometry(POND + 0.3, 60, 120, 6),
    new THREE.MeshLambertMaterial({ map: grassMap }),
  );
  grass.rotation.x = -Math.PI / 2;
  grass.position.set(0, 0.26, -2);
  bank.add(grass);
  const stone = new THREE.MeshLambertMaterial({
    map: canvasTexture(
      512,
      (g, size) => {
        for (let i = 0; i < 8; i++) {
          g.fillStyle = `hsl(${34 + random() * 8},8%,${40 + random() * 16}%)`;
          g.fillRect((i * size) / 8, 0, size / 8, size);
          g.fillStyle = 'rgba(20,18,14,.8)';
          g.fillRect((i * size) / 8, 0, 4, size);
        }
        for (let i = 0; i < 9000; i++) {
          g.fillStyle = `rgba(${random() < 0.5 ? '0,0,0' : '255,250,235'},.09)`;
          g.fillRect(random() * size, random() * size, 4, 3);
        }
        g.fillStyle = 'rgba(30,42,22,.5)';
        g.fillRect(0, size * 0.78, size, size * 0.22);
      },
      [22, 1],
    ),
    side: THREE.DoubleSide,
  });
  const kerb = new THREE.Mesh(new THREE.CylinderGeometry(POND, POND, 0.36, 160, 1, true), stone);
  kerb.position.set(0, 0.12, -2);
  const cap = new THREE.Mesh(new THREE.RingGeometry(POND, POND + 0.4, 160, 1), stone);
  cap.rotation.x = -Math.PI / 2;
  cap.position.set(0, 0.3, -2);
  bank.add(kerb, cap);
  return bank;
}

/** The far wood behind the trees, out of focus in every picture: dark, mottled, with chinks of sky. */
function buildWood() {
  const random = seeded(29);
  const map = canvasTexture(
    1024,
    (g, size) => {
      g.clearRect(0, 0, size, size);
      const blob = (x, y, r, style) => {
        for (const dx of [-size, 0, size]) {
          const soft = g.createRadialGradient(x + dx, y, r * 0.4, x + dx, y, r);
          soft.addColorStop(0, style(1));
          soft.addColorStop(1, style(0));
          g.fillStyle = soft;
          g.fillRect(x + dx - r, y - r, 2 * r, 2 * r);
        }
      };
      g.fillStyle = '#1c2115';
      g.fillRect(0, size * 0.42, size, size);
      for (let i = 0; i < 1900; i++) {
        const x = random() * size;
        const top =
          0.24 + 0.07 * Math.sin((x / size) * 6.2832 * 2) + 0.06 * Math.sin((x / size) * 6.2832 * 5 + 2);
        const y = size * (top + (1 - top) * Math.sqrt(random()));
        const [h, s, l] = [26 + random() * 80, 18 + random() * 26, 7 + random() * 13 * (1 - y / size) + 5];
        blob(x, y, 18 + random() * 46, (k) => `hsla(${h},${s}%,${l}%,${k})`);
      }
      for (let i = 0; i < 420; i++) {
        const gap = random() < 0.12;
        const tone = gap ? '206,214,214' : random() < 0.6 ? '150,112,46' : '96,104,52';
        const [x, y, r] = [random() * size, size * (0.24 + 0.6 * random()), 3 + random() * (gap ? 6 : 12)];
        blob(x, y, r, (k) => `rgba(${tone},${k * (gap ? 0.55 : 0.45)})`);
      }
    },
    [16, 1],
  );
  const wood = new THREE.Mesh(
    new THREE.CylinderGeometry(31, 31, 9.5, 90, 1, true),
    new THREE.MeshBasicMaterial({ map, side: THREE.BackSide, transparent: true, alphaTest: 0.02, fog: true }),
  );
  wood.position.set(0, 4.6, -2);
  return wood;
}

function buildSky() {
  const random = seeded(41);
  const map = canvasTexture(1024, (g, size) => {
    const ramp = g.createLinearGradient(0, 0, 0, size);
    ramp.addColorStop(0, '#5c86b4');
    ramp.addColorStop(0.36, '#93b2cd');
    ramp.addColorStop(0.5, '#d3dcdf');
    ramp.addColorStop(1, '#c8cfcc');
    g.fillStyle = ramp;
    g.fillRect(0, 0, size, size);
    for (let i = 0; i < 420; i++) {
      const y = size * (0.16 + 0.3 * random());
      const w = 20 + random() * 90;
      const x = random() * size;
      const puff = g.createRadialGradient(x, y, 0, x, y, w);
      puff.addColorStop(0, `rgba(255,253,248,${0.05 + random() * 0.09})`);
      puff.addColorStop(1, 'rgba(255,253,248,0)');
      g.fillStyle = puff;
      g.fillRect(x - w, y - w * 0.3, 2 * w, w * 0.6);
    }
  });
  const sky = new THREE.Mesh(
    new THREE.SphereGeometry(90, 48, 32),
    new THREE.MeshBasicMaterial({ map, side: THREE.BackSide, fog: false }),
  );
  return sky;
}

const YACHTS = {
  red: { hull: '#8e1f1c', number: '27', stripe: '#8e1f1c', seed: 201 },
  blue: { hull: '#1b3a63', number: '14', stripe: '#1b3a63', seed: 211 },
  green: { hull: '#234a35', number: '8', stripe: '#c08a28', seed: 221 },
  white: { hull: '#e4e0d4', number: '31', stripe: '#3f6e8c', seed: 231 },
};
const SAILING = { x: 0, z: 0, course: 0, heel: 0.2, sheet: 0.4, lee: 1, speed: 0 };

/** plate: { yachts: [{ name, x, z, course, heel, sheet, lee, speed (metres in the exposure) }], buoys?, time } */
export function buildPond(plate) {
  const scene = new THREE.Scene();
  scene.fog = new THREE.Fog('#b4bebd', 30, 150);
  scene.add(buildSky(), buildBank(), buildWood(), buildTrees(plate.ripple ? 0.72 : 1));
  const boats = (plate.yachts ?? []).map((y) => {
    const state = { ...SAILING, ...YACHTS[y.name], ...y };
    const group = buildYacht(state);
    scene.add(group);
    return { group, state };
  });
  for (const [x, z, tilt] of plate.buoys ?? []) scene.add(buildBuoy(x, z, tilt));
  const sun = new THREE.DirectionalLight('#fff0d2', 3.4);
  const centre = plate.yachts?.[0] ?? { x: 0, z: 0 };
  sun.target.position.set(centre.x, 0.5, centre.z);
  sun.castShadow = true;
  sun.shadow.mapSize.set(2048, 2048);
  sun.shadow.bias = -0.0005;
  sun.shadow.normalBias = 0.01;
  Object.assign(sun.shadow.camera, { left: -4, right: 4, top: 4, bottom: -4, near: 1, far: 40 });
  scene.add(sun, sun.target, new THREE.HemisphereLight('#cfe0ee', '#4a4a34', 1.15));
  const sunAt = new THREE.Vector3(-0.62, 0.5, 0.42).normalize();
  const water = new Water(new THREE.PlaneGeometry(140, 140), {
    textureWidth: 768,
    textureHeight: 768,
    waterNormals: waveNormals(),
    sunDirection: sunAt,
    sunColor: 0xfff0d2,
    waterColor: 0x16241e,
    distortionScale: plate.ripple ? 0.6 : 0.9,
    fog: true,
  });
  water.rotation.x = -Math.PI / 2;
  water.material.uniforms.size.value = plate.ripple ?? 14;
  scene.add(water);
  const moveLamps = (x, y, t) => {
    sun.position
      .copy(sun.target.position)
      .addScaledVector(sunAt, 20)
      .add(new THREE.Vector3(0.1 * x, 0.1 * y, 0));
    water.material.uniforms.time.value = (plate.time ?? 0) + t * 0.004;
    for (const { group, state } of boats) {
      group.position.x = state.x + Math.cos(state.course) * state.speed * (t - 0.5);
      group.position.z = state.z - Math.sin(state.course) * state.speed * (t - 0.5);
    }
  };
  return { scene, clear: 0xb4bebd, moveLamps };
}
