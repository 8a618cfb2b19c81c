/** How a picture stands in the frame, when it is not simply filled or fitted. */
export interface View {
  /** the point of the picture that lies in the middle of the frame, parts of its width and height */
  readonly x: number;
  readonly y: number;
  /** 1 is as large as its framing makes it */
  readonly zoom: number;
  /** how far it is turned about the middle of the frame, degrees clockwise */
  readonly turn: number;
}

/** A picture in the middle of the frame, as its framing makes it. */
export const MIDDLE_VIEW: View = { x: 0.5, y: 0.5, zoom: 1, turn: 0 };
