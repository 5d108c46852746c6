/** Clips evaluated: values between keys, poses, skinned and morphed positions. */
package ferry.stone.core.motion;
