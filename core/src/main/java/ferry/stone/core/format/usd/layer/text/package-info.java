/** Layers as text: the whole grammar, with the place of every fault. */
package ferry.stone.core.format.usd.layer.text;
