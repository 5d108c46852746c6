/**
 * What a stage of USD says, as a scene. After the schemas of the standard ({@code pxr/usd/usdGeom},
 * {@code usdShade}, {@code usdSkel}, {@code usdLux}) and its preview surface proposal.
 */
package ferry.stone.core.format.usd.read;
