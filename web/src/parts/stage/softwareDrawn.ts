/** Names of what draws without a graphics card: SwiftShader of Chromium, llvmpipe and softpipe of Mesa, the basic driver of Windows. */
const SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i;

let answer: boolean | null = null;

/** Whether a page of this browser is drawn by the processor, without a graphics card; asked once. */
export function isSoftwareDrawn(): boolean {
  answer ??= SOFTWARE.test(rendererName(document.createElement('canvas').getContext('webgl')));
  return answer;
}

/** What a context says that it draws with; nothing where there is none. */
function rendererName(gl: WebGLRenderingContext | null): string {
  if (!gl) return '';
  // Firefox tells it without the extension, which it warns of.
  const plain = String(gl.getParameter(gl.RENDERER));
  const extension = gl.getExtension('WEBGL_debug_renderer_info');
  const name = extension ? String(gl.getParameter(extension.UNMASKED_RENDERER_WEBGL)) : plain;
  gl.getExtension('WEBGL_lose_context')?.loseContext();
  return name;
}
