/** The stepped block in mm, seen from the front: three treads and a hole. The solid and the section share it. */
export const STEPS: readonly (readonly [number, number])[] = [
	[0, 0],
	[60, 0],
	[60, 12],
	[40, 12],
	[40, 26],
	[20, 26],
	[20, 40],
	[0, 40],
];
export const HOLE = { x: 30, y: 13, radius: 6 } as const;
