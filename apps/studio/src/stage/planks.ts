import * as THREE from 'three';

/** Of a plank, metres. */
const BROAD = 0.16;

/** Planks side by side, as many as fit into a face so wide: for the props that are of wood. */
export function planks(width: number, height: number): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 128;
  const context = canvas.getContext('2d');
  const count = Math.max(1, Math.min(12, Math.round(Math.max(width, height) / BROAD)));
  if (context) {
    const high = 128 / count;
    for (let i = 0; i < count; i++) {
      const shade = 0.86 + 0.14 * Math.sin(i * 2.4);
      context.fillStyle = `rgb(${Math.round(168 * shade)},${Math.round(122 * shade)},${Math.round(74 * shade)})`;
      context.fillRect(0, i * high, 128, high);
      context.strokeStyle = 'rgba(70,42,20,0.28)';
      context.lineWidth = 1;
      // Grain along the plank.
      for (let k = 1; k < 4; k++) {
        const y = i * high + (k / 4) * high;
        context.beginPath();
        context.moveTo(0, y);
        context.bezierCurveTo(40, y + 3 * Math.sin(i + k), 90, y - 3 * Math.cos(i * k), 128, y);
        context.stroke();
      }
      context.fillStyle = 'rgba(40,22,10,0.6)';
      context.fillRect(0, i * high, 128, 1.5);
    }
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}
