"""Writes curves.usda, curves.usdc and curves.txt: curves of every kind, and what the standard's
library says they are at moments. Made with usd-core 26.11 (PyPI): python3 make-curves.py
"""
import os
from pxr import Sdf, Ts, Usd

HERE = os.path.dirname(os.path.abspath(__file__))
stage = Usd.Stage.CreateInMemory()
stage.SetStartTimeCode(-12)
stage.SetEndTimeCode(60)
stage.SetTimeCodesPerSecond(24)
prim = stage.DefinePrim("/Tide", "Xform")
stage.SetDefaultPrim(prim)
BEZIER, HERMITE = Ts.CurveTypeBezier, Ts.CurveTypeHermite
CURVE, LINEAR, HELD, NONE = (
    Ts.InterpCurve, Ts.InterpLinear, Ts.InterpHeld, Ts.InterpValueBlock)


def curve(name, kind, knots, before=None, after=None, loop=None, hermite=False):
    """Knots: time, value, what follows, tangents before and after (width, slope), value before."""
    spline = Ts.Spline(kind)
    if hermite:
        spline.SetCurveType(HERMITE)
    for time, value, next_, pre, post, jump in knots:
        knot = Ts.Knot(typeName=kind, curveType=HERMITE if hermite else BEZIER)
        knot.SetTime(time)
        knot.SetValue(value)
        knot.SetNextInterpolation(next_)
        if pre:
            knot.SetPreTanWidth(pre[0])
            knot.SetPreTanSlope(pre[1])
        if post:
            knot.SetPostTanWidth(post[0])
            knot.SetPostTanSlope(post[1])
        if jump is not None:
            knot.SetPreValue(jump)
        spline.SetKnot(knot)
    if before:
        spline.SetPreExtrapolation(before)
    if after:
        spline.SetPostExtrapolation(after)
    if loop:
        params = Ts.LoopParams()
        (params.protoStart, params.protoEnd, params.numPreLoops, params.numPostLoops,
         params.valueOffset) = loop
        spline.SetInnerLoopParams(params)
    types = Sdf.ValueTypeNames
    attribute = prim.CreateAttribute(
        name, {"double": types.Double, "float": types.Float, "half": types.Half}[kind])
    attribute.SetSpline(spline)


def way(mode, slope=0.0):
    all_ = Ts.Extrapolation(mode)
    all_.slope = slope
    return all_


MIXED = [(1, 0.0, CURVE, None, (3, .5), None), (10, 5.0, CURVE, (2, .1), (4, -1.0), None),
         (20, 2.0, LINEAR, (1, 0.0), None, None), (30, 8.0, HELD, None, None, 7.0),
         (40, 1.0, CURVE, None, None, None)]
SHORT = [(5, 0.0, CURVE, (2, 1.0), (2, 1.0), None), (15, 3.0, CURVE, (2, -.5), (2, -.5), None)]
curve("mixed", "double", MIXED, way(Ts.ExtrapLinear), way(Ts.ExtrapSloped, .25))
curve("looped", "float",
      [(10, 0.0, CURVE, (2, 1.0), (2, 1.0), None), (15, 3.0, CURVE, (2, -.5), (2, -.5), None),
       (20, 1.0, CURVE, (2, 0.0), (2, 0.0), None), (50, 2.0, CURVE, (2, 0.0), (2, 0.0), None)],
      loop=(10, 20, 1, 2, 1.5))
curve("swinging", "float", SHORT, way(Ts.ExtrapLoopOscillate), way(Ts.ExtrapLoopRepeat))
curve("resetting", "half", SHORT, way(Ts.ExtrapLoopReset), way(Ts.ExtrapLoopOscillate))
curve("leaning", "double", SHORT, way(Ts.ExtrapSloped, -.5), way(Ts.ExtrapLinear))
curve("sloped", "double",
      [(5, 0.0, CURVE, None, (0, 1.0), None), (15, 3.0, CURVE, (0, -.5), (0, -.5), None),
       (22, 1.0, CURVE, (0, 2.0), (0, 2.0), None)],
      way(Ts.ExtrapLinear), way(Ts.ExtrapLoopReset), hermite=True)
curve("wide", "double",
      [(0, 0.0, CURVE, None, (14, .5), None), (10, 4.0, CURVE, (9, .2), (30, 0.0), None),
       (20, 1.0, CURVE, (2, 1.0), None, None)])
curve("gap", "double",
      [(0, 1.0, LINEAR, None, None, None), (10, 4.0, NONE, None, None, None),
       (20, 1.0, LINEAR, None, None, None), (30, 3.0, LINEAR, None, None, None)],
      way(Ts.ExtrapValueBlock), way(Ts.ExtrapLinear))
curve("alone", "double", [(7, 2.5, CURVE, (1, 1.0), (1, 1.0), None)], way(Ts.ExtrapLinear))
curve("jumping", "double",
      [(5, 1.0, LINEAR, None, None, .5), (15, 3.0, LINEAR, None, None, 2.0)],
      way(Ts.ExtrapLoopRepeat), way(Ts.ExtrapLoopRepeat))
layer = stage.GetRootLayer()
layer.Export(os.path.join(HERE, "curves.usda"))
layer.Export(os.path.join(HERE, "curves.usdc"))
with open(os.path.join(HERE, "curves.txt"), "w") as out:
    for attribute in prim.GetAuthoredAttributes():
        for i in range(-24, 125):
            value = attribute.Get(i / 2)
            out.write(f"{attribute.GetName()} {i / 2} {'none' if value is None else value}\n")
