/** Three numbers in a fixed frame; the frame is named where the vector is. */
export type Vec3 = Float64Array;
