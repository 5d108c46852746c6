/**
 * Images in KTX2 containers: the Khronos Texture specification 2.0 with Basis Universal's ETC1S and
 * UASTC, by which KHR_texture_basisu goes.
 */
package ferry.stone.core.texture.ktx;
