/**
 * What the schemas of Universal Scene Description (Pixar, OpenUSD 26.11, its user guides and schema
 * definitions) demand of a layer, held to layers that landed. What the reader forgives is told
 * here.
 */
package ferry.stone.core.format.usd.rules;
