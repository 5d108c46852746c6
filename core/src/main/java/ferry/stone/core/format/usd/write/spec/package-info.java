/** What all writers of a stage share: prims, their properties and values over time. */
package ferry.stone.core.format.usd.write.spec;
