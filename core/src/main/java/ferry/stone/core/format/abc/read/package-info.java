/**
 * What the schemas of Alembic say, as a scene. After the sources of the Alembic library ({@code
 * AbcGeom}, {@code AbcMaterial}), which are the only published description.
 */
package ferry.stone.core.format.abc.read;
