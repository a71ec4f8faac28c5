export interface ReliefRequest {
  id: number;
  buffer: ArrayBuffer;
  dark: boolean;
  contourIntervalM: number;
  /** Ground metres of one pixel. */
  pixelM: number;
}

export interface ReliefAnswer {
  id: number;
  image: ImageBitmap;
}
