// The camera: each plate is the sum of many renderings of a scene, each with its own point on the lens and on the
// lamps and its own moment of the exposure, added up in linear light; so depth of field, the edges of shadows and the
// smear of what moves come out as a camera would see them.
import * as THREE from 'three';
import { seeded } from './parts.js';
import { buildPond } from './pond.js';
import { buildPottery } from './pottery.js';
import { buildStage } from './stage.js';

const SCENES = { stage: buildStage, pottery: buildPottery, pond: buildPond };

/**
 * plate: { scene, width, height, samples, seed, exposure?, camera: { at, look, fov, focus?, aperture } } and what the
 * scene itself wants. Returns a PNG data URL, developed with a filmic curve.
 */
window.renderPlate = async (plate) => {
  const random = seeded(plate.seed);
  const renderer = new THREE.WebGLRenderer({ antialias: false, preserveDrawingBuffer: true });
  renderer.setPixelRatio(1);
  renderer.setSize(plate.width, plate.height);
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = THREE.PCFSoftShadowMap;
  renderer.toneMapping = THREE.NoToneMapping;
  const { scene, clear, moveLamps } = SCENES[plate.scene ?? 'stage'](plate, renderer);
  const options = { type: THREE.FloatType, minFilter: THREE.NearestFilter, magFilter: THREE.NearestFilter };
  const once = new THREE.WebGLRenderTarget(plate.width, plate.height, options);
  const sum = new THREE.WebGLRenderTarget(plate.width, plate.height, { ...options, depthBuffer: false });
  const quad = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
  const pass = (fragmentShader, uniforms, blending) => {
    const s = new THREE.Scene();
    s.add(
      new THREE.Mesh(
        new THREE.PlaneGeometry(2, 2),
        new THREE.ShaderMaterial({
          vertexShader: 'varying vec2 v; void main(){ v = uv; gl_Position = vec4(position.xy, 0., 1.); }',
          fragmentShader,
          uniforms,
          depthTest: false,
          depthWrite: false,
          transparent: blending,
          blending: blending ? THREE.CustomBlending : THREE.NoBlending,
          blendSrc: THREE.OneFactor,
          blendDst: THREE.OneFactor,
          blendEquation: THREE.AddEquation,
        }),
      ),
    );
    return s;
  };
  const add = pass(
    'varying vec2 v; uniform sampler2D t; uniform float w; void main(){ gl_FragColor = vec4(min(texture2D(t, v).rgb, vec3(12.)) * w, w); }',
    { t: { value: once.texture }, w: { value: 1 / plate.samples } },
    true,
  );
  // Filmic curve: the fitted curve of K. Narkowicz (2015), then the sRGB transfer function of IEC 61966-2-1.
  const develop = pass(
    `varying vec2 v; uniform sampler2D t; uniform float e;
    void main(){ vec2 d = v - .5; vec3 c = texture2D(t, v).rgb * e * (1. - .55 * dot(d, d));
      c = clamp((c * (2.51 * c + .03)) / (c * (2.43 * c + .59) + .14), 0., 1.);
      c = mix(12.92 * c, 1.055 * pow(c, vec3(1. / 2.4)) - .055, step(.0031308, c));
      gl_FragColor = vec4(c, 1.); }`,
    { t: { value: sum.texture }, e: { value: plate.exposure ?? 1 } },
    false,
  );
  renderer.autoClear = false;
  renderer.setRenderTarget(sum);
  renderer.setClearColor(0x000000, 0);
  renderer.clear();

  const camera = new THREE.PerspectiveCamera(plate.camera.fov, plate.width / plate.height, 0.1, 200);
  const at = new THREE.Vector3(...plate.camera.at);
  const look = new THREE.Vector3(...plate.camera.look);
  const forward = new THREE.Vector3().subVectors(look, at).normalize();
  const right = new THREE.Vector3().crossVectors(forward, new THREE.Vector3(0, 1, 0)).normalize();
  const up = new THREE.Vector3().crossVectors(right, forward);
  const focus = plate.camera.focus ?? at.distanceTo(look);
  const disc = (i, n, radius) => {
    const r = radius * Math.sqrt((i + 0.5) / n);
    const a = i * 2.399963 + random() * 0.3;
    return [r * Math.cos(a), r * Math.sin(a)];
  };
  for (let i = 0; i < plate.samples; i++) {
    const [lx, ly] = disc(i, plate.samples, plate.camera.aperture);
    const j = (i * 7) % plate.samples;
    moveLamps(...disc(j, plate.samples, 1), i / plate.samples);
    // An oblique frustum through the plane of focus: every lens point sees that plane at the same place.
    camera.position.copy(at).addScaledVector(right, lx).addScaledVector(up, ly);
    camera.up.copy(up);
    camera.lookAt(camera.position.clone().add(forward));
    camera.updateProjectionMatrix();
    const halfH = Math.tan((plate.camera.fov * Math.PI) / 360);
    camera.projectionMatrix.elements[8] +=
      -lx / (focus * halfH * camera.aspect) + ((random() - 0.5) * 2) / plate.width;
    camera.projectionMatrix.elements[9] += -ly / (focus * halfH) + ((random() - 0.5) * 2) / plate.height;
    camera.projectionMatrixInverse.copy(camera.projectionMatrix).invert();
    renderer.setRenderTarget(once);
    renderer.setClearColor(clear, 1);
    renderer.clear();
    renderer.render(scene, camera);
    renderer.setRenderTarget(sum);
    renderer.render(add, quad);
  }
  renderer.setRenderTarget(null);
  renderer.render(develop, quad);
  const url = renderer.domElement.toDataURL('image/png');
  renderer.dispose();
  renderer.forceContextLoss();
  return url;
};
window.ready = true;
