declare module 'gltf-validator' {
  /** One finding of the Khronos validator; severity 0 is an error, 1 a warning, 2 an information. */
  export interface ValidatorMessage {
    readonly code: string;
    readonly message: string;
    readonly severity: number;
    readonly pointer?: string;
  }
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{
      issues: { numErrors: number; numWarnings: number; messages: ValidatorMessage[] };
    }>;
  };
  export default validator;
}
