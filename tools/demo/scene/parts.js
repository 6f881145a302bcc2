// What the made-up scenes share: repeatable chance, drawn textures, small shapes.
import * as THREE from 'three';

// A small repeatable generator (mulberry32, public domain), so that the same seed gives the same plate.
export function seeded(seed) {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export function canvasTexture(size, draw, repeat = [1, 1], srgb = true) {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size;
  draw(canvas.getContext('2d'), size);
  const texture = new THREE.CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  texture.repeat.set(...repeat);
  texture.anisotropy = 8;
  if (srgb) texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}

export function woodPlanks(random, planks, tone) {
  return canvasTexture(1024, (g, size) => {
    const width = size / planks;
    for (let i = 0; i < planks; i++) {
      const shade = 0.75 + random() * 0.4;
      g.fillStyle = `rgb(${tone[0] * shade},${tone[1] * shade},${tone[2] * shade})`;
      g.fillRect(i * width, 0, width, size);
      for (let k = 0; k < 90; k++) {
        const x = i * width + random() * width;
        g.strokeStyle = `rgba(${random() < 0.5 ? '20,10,4' : '255,220,170'},${0.03 + random() * 0.07})`;
        g.lineWidth = 0.5 + random() * 2;
        g.beginPath();
        g.moveTo(x, 0);
        g.bezierCurveTo(x + random() * 12 - 6, size / 3, x + random() * 12 - 6, (2 * size) / 3, x, size);
        g.stroke();
      }
      g.fillStyle = 'rgba(8,4,2,.85)';
      g.fillRect(i * width - 1.5, 0, 3, size);
      g.fillRect(i * width, random() * size, width, 3);
    }
  });
}

export function weave(random, base, spread) {
  return canvasTexture(
    512,
    (g, size) => {
      g.fillStyle = `rgb(${base.join(',')})`;
      g.fillRect(0, 0, size, size);
      for (let i = 0; i < 26000; i++) {
        const v = (random() - 0.5) * spread;
        g.fillStyle = v > 0 ? `rgba(255,245,230,${v})` : `rgba(0,0,0,${-v})`;
        const across = random() < 0.5;
        g.fillRect(random() * size, random() * size, across ? 5 : 1, across ? 1 : 5);
      }
    },
    [3, 3],
  );
}

export function limb(from, to, r0, r1, material) {
  const direction = new THREE.Vector3().subVectors(to, from);
  const mesh = new THREE.Mesh(new THREE.CylinderGeometry(r1, r0, direction.length(), 20), material);
  mesh.position.copy(from).addScaledVector(direction, 0.5);
  mesh.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), direction.normalize());
  return mesh;
}

export function shadowed(group) {
  group.traverse((o) => {
    if (o.isMesh) o.castShadow = o.receiveShadow = true;
  });
  return group;
}
