/**
 * COLLADA 1.4 and 1.5, read: "COLLADA – Digital Asset Schema Release 1.4.1" and "1.5.0", Khronos
 * Group. The XML is read into a small tree with its numbers in arrays; meshes, materials, nodes,
 * controllers and animations are each made from it by a class of their own.
 */
package ferry.stone.core.format.collada;
