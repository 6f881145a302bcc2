export interface Space {
  /** bytes that this process may still write */
  free: number;
  /** bytes in all */
  total: number;
}
