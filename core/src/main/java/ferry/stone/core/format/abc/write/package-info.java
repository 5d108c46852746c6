/** Writes scenes as Alembic: what it holds of a scene, and each schema. */
package ferry.stone.core.format.abc.write;
