-- Landings stored their options by the names of two formats; now each format has options of its own.
UPDATE landing SET options = json_object(
  'format', options ->> '$.format',
  'options', CASE options ->> '$.format'
    WHEN 'fbx' THEN json_object(
      'embedTextures', json(options -> '$.embedTextures'),
      'form', CASE
        WHEN options ->> '$.fbx.form' = 'TEXT' THEN 'text'
        WHEN options ->> '$.fbx.version' = 7500 THEN 'binary64'
        ELSE 'binary' END,
      'unit', CAST(coalesce(options ->> '$.fbx.metresPerUnit', 0.01) AS TEXT),
      'up', replace(replace(lower(coalesce(options ->> '$.fbx.up', 'PLUS_Y')), 'plus_', ''),
        'minus_', '-'),
      'front', coalesce(replace(replace(lower(options ->> '$.fbx.front'), 'plus_', ''),
        'minus_', '-'), 'usual'),
      'hand', lower(coalesce(options ->> '$.fbx.hand', 'RIGHT')),
      'triangulate', json(coalesce(options -> '$.fbx.triangulate', 'false')),
      'bake', json(coalesce(options -> '$.fbx.bake', 'false')),
      'bakeTolerance', coalesce(options ->> '$.fbx.toleranceRadians', 0))
    WHEN 'gltf' THEN json_object(
      'embedTextures', json(options -> '$.embedTextures'),
      'embedGeometry', json(options -> '$.embedBuffers'),
      'influences', options ->> '$.influences',
      'quantize', json(coalesce(options -> '$.packing.quantized', 'false')),
      'compress', json(coalesce(options -> '$.packing.compressed', 'false')),
      'drawOrder', json(coalesce(options -> '$.packing.drawOrder', 'false')),
      'gatherCopies', json(coalesce(options -> '$.packing.instanced', 'false')),
      'tangents', json(coalesce(options -> '$.packing.tangents', 'true')),
      'largestTexture', coalesce(options ->> '$.packing.largestTexture', 0),
      'indexBits', lower(coalesce(options ->> '$.packing.indexBits', 'FITTING')))
    ELSE json_object(
      'embedTextures', json(options -> '$.embedTextures'),
      'influences', options ->> '$.influences',
      'quantize', json(coalesce(options -> '$.packing.quantized', 'false')),
      'compress', json(coalesce(options -> '$.packing.compressed', 'false')),
      'drawOrder', json(coalesce(options -> '$.packing.drawOrder', 'false')),
      'gatherCopies', json(coalesce(options -> '$.packing.instanced', 'false')),
      'tangents', json(coalesce(options -> '$.packing.tangents', 'true')),
      'largestTexture', coalesce(options ->> '$.packing.largestTexture', 0),
      'indexBits', lower(coalesce(options ->> '$.packing.indexBits', 'FITTING')))
    END,
  'transforms', options ->> '$.transforms',
  'doubleSided', json(coalesce(options -> '$.doubleSided', 'false')),
  'fileName', options ->> '$.fileName',
  'parts', json(options -> '$.parts'),
  'skinMove', options ->> '$.skinMove')
WHERE options -> '$.options' IS NULL;
