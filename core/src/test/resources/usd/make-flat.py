"""Flattens compose/root.usda and compose/moved.usda with the standard's own library (usd-core 26.11,
PyPI). What it copies of reorders is taken out: the prims stand in the order that these have made
already."""
from pxr import Sdf, Usd


def flatten(source, target):
    layer = Usd.Stage.Open(source).Flatten()
    layer.documentation = ''

    def plain(path):
        spec = layer.GetObjectAtPath(path)
        if isinstance(spec, Sdf.PrimSpec):
            spec.ClearInfo('primOrder')

    layer.Traverse('/', plain)
    layer.Export(target)


flatten('compose/root.usda', 'compose/flat.usda')
flatten('compose/moved.usda', 'compose/moved-flat.usda')
