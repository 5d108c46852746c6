/**
 * Layers of USD as they are in their files, text or crate: specs with their fields, before anything
 * is composed.
 */
package ferry.stone.core.format.usd.layer;
