"""Writes edits.usda, edits.usdc (edits of arrays over those of edits-weak.usda) and edits.txt:
what the standard's library makes of them. Made with usd-core 26.11 (PyPI): python3 make-edits.py
"""
import os
import random

from pxr import Gf, Sdf, Usd, Vt

HERE = os.path.dirname(os.path.abspath(__file__))
random.seed(4)
KINDS = [
    ("int[]", Vt.IntArrayEditBuilder, Vt.IntArray, lambda: random.randrange(100)),
    ("double[]", Vt.DoubleArrayEditBuilder, Vt.DoubleArray, lambda: random.randrange(100) / 8),
    ("token[]", Vt.TokenArrayEditBuilder, Vt.TokenArray, lambda: random.choice("abcdef")),
    ("float3[]", Vt.Vec3fArrayEditBuilder, Vt.Vec3fArray,
     lambda: Gf.Vec3f(random.randrange(9), random.randrange(9), .5)),
]


def place():
    return random.randrange(-6, 7)


def edit(builder, value):
    b = builder()
    for _ in range(random.randrange(1, 9)):
        random.choice([
            lambda: b.Write(value(), place()), lambda: b.WriteRef(place(), place()),
            lambda: b.Insert(value(), place()), lambda: b.InsertRef(place(), place()),
            lambda: b.EraseRef(place()), lambda: b.Append(value()), lambda: b.AppendRef(place()),
            lambda: b.Prepend(value()), lambda: b.PrependRef(place()),
            lambda: b.MinSize(random.randrange(9)),
            lambda: b.MinSize(random.randrange(9), value()),
            lambda: b.MaxSize(random.randrange(9)), lambda: b.SetSize(random.randrange(9)),
            lambda: b.SetSize(random.randrange(9), value())])()
    return b.FinalizeAndReset()


def attribute(layer, name, kind):
    prim = Sdf.CreatePrimInLayer(layer, "/Row")
    prim.specifier = Sdf.SpecifierDef
    return Sdf.AttributeSpec(prim, name, Sdf.ValueTypeNames.Find(kind))


weak = Sdf.Layer.CreateAnonymous(".usda")
strong = Sdf.Layer.CreateAnonymous(".usda")
for i in range(60):
    kind, builder, array, value = KINDS[i % len(KINDS)]
    name = f"x{i}"
    if i % 7:
        attribute(weak, name, kind).default = array([value() for _ in range(random.randrange(7))])
    attribute(strong, name, kind).default = edit(builder, value)
moving = attribute(weak, "moving", "int[]")
weak.SetTimeSample(moving.path, 1, Vt.IntArray([1, 2]))
weak.SetTimeSample(moving.path, 5, Vt.IntArray([3, 4, 5]))
attribute(strong, "moving", "int[]").default = edit(*[KINDS[0][1], KINDS[0][3]])
weak.Export(os.path.join(HERE, "edits-weak.usda"))
strong.subLayerPaths = ["edits-weak.usda"]
for ending in ("usda", "usdc"):
    strong.Export(os.path.join(HERE, "edits." + ending))
stage = Usd.Stage.Open(os.path.join(HERE, "edits.usda"))


def text(value):
    flat = []
    for one in value or []:
        flat.extend(one if isinstance(one, Gf.Vec3f) else [one])
    return " ".join(repr(v if isinstance(v, str) else float(v)) for v in flat)


with open(os.path.join(HERE, "edits.txt"), "w") as out:
    for attribute_ in stage.GetPrimAtPath("/Row").GetAttributes():
        times = [1, 5] if attribute_.GetName() == "moving" else [0]
        for time in times:
            out.write(f"{attribute_.GetName()} {time} {text(attribute_.Get(time))}".rstrip() + "\n")
