/**
 * The container and the property tree of Alembic, without the meaning of its schemas.
 *
 * <p>After the sources of the Alembic library (libraries {@code Ogawa} and {@code AbcCoreOgawa}),
 * which are the only published description. All numbers are little-endian.
 *
 * <table>
 * <caption>Ogawa</caption>
 * <tr><td>head</td><td>"Ogawa", 0xff when the file was closed (0 before), uint16 version 1
 * big-endian, uint64 place of the root group</td></tr>
 * <tr><td>group</td><td>uint64 count, then as many uint64: places of its children. The highest bit
 * tells data from groups; the place 0 is the empty one</td></tr>
 * <tr><td>data</td><td>uint64 bytes, then these</td></tr>
 * <tr><td>root</td><td>int32 version of the tree, int32 version of the library, group of the top
 * object, its metadata, time samplings, indexed metadata</td></tr>
 * <tr><td>object</td><td>group of its properties, groups of the objects below it, data of their
 * headers with 32 bytes of hashes after them</td></tr>
 * <tr><td>compound</td><td>groups of its properties, data of their headers</td></tr>
 * <tr><td>scalar</td><td>data a stored sample: 16 bytes of key, then the value</td></tr>
 * <tr><td>array</td><td>two data a stored sample: the same, and the dimensions (empty: as many as
 * there is room for)</td></tr>
 * </table>
 */
package ferry.stone.core.format.abc.raw;
