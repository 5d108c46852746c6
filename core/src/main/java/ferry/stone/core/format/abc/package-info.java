/** Alembic. The container and its property tree in {@code raw}, their meaning in {@code read}. */
package ferry.stone.core.format.abc;
