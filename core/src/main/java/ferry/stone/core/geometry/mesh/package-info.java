/** Taking meshes apart, joining, mending and measuring them. */
package ferry.stone.core.geometry.mesh;
