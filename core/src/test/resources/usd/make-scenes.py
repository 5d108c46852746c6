"""Makes scene/*.usda and what the standard's own library says of them (scene/*.json).

Run with usd-core 26.11: python make-scenes.py. Boxes of the world are those of points, skinned
and blended where a skeleton moves them, with prims that are seen for no purpose left out.
"""
import json
import os

import numpy as np
from pxr import Gf, Sdf, Usd, UsdGeom, UsdLux, UsdShade, UsdSkel, Vt

HERE = os.path.join(os.path.dirname(os.path.abspath(__file__)), "scene")
TIMES = [1.0, 3.5, 7.0, 10.0]


def stage(name, up="Z", unit=0.01):
    path = os.path.join(HERE, name + ".usda")
    if os.path.exists(path):
        os.remove(path)
    s = Usd.Stage.CreateNew(path)
    UsdGeom.SetStageUpAxis(s, up)
    UsdGeom.SetStageMetersPerUnit(s, unit)
    s.SetTimeCodesPerSecond(24)
    s.SetFramesPerSecond(24)
    s.SetStartTimeCode(1)
    s.SetEndTimeCode(10)
    return s


def crate(s, path, size=1.0, scheme="none"):
    """An open box with a seam in its UVs."""
    m = UsdGeom.Mesh.Define(s, path)
    h = size / 2
    p = [(x, y, z) for z in (-h, h) for y in (-h, h) for x in (-h, h)]
    f = [0, 2, 3, 1, 0, 1, 5, 4, 1, 3, 7, 5, 3, 2, 6, 7, 2, 0, 4, 6]
    m.CreatePointsAttr(p)
    m.CreateFaceVertexCountsAttr([4] * 5)
    m.CreateFaceVertexIndicesAttr(f)
    m.CreateSubdivisionSchemeAttr(scheme)
    m.CreateExtentAttr([(-h, -h, -h), (h, h, h)])
    api = UsdGeom.PrimvarsAPI(m)
    st = api.CreatePrimvar("st", Sdf.ValueTypeNames.TexCoord2fArray, "faceVarying")
    st.Set([(0, 0), (1, 0), (1, 1), (0, 1)])
    st.SetIndices([0, 1, 2, 3] * 5)
    return m


def material(s, path, colour, texture=None, uvs="st"):
    m = UsdShade.Material.Define(s, path)
    sh = UsdShade.Shader.Define(s, path + "/surface")
    sh.CreateIdAttr("UsdPreviewSurface")
    colour_in = sh.CreateInput("diffuseColor", Sdf.ValueTypeNames.Color3f)
    colour_in.Set(colour)
    sh.CreateInput("roughness", Sdf.ValueTypeNames.Float).Set(0.25)
    sh.CreateInput("metallic", Sdf.ValueTypeNames.Float).Set(0.75)
    m.CreateSurfaceOutput().ConnectToSource(sh.ConnectableAPI(), "surface")
    if texture:
        name = m.CreateInput("uvs", Sdf.ValueTypeNames.String)
        name.Set(uvs)
        reader = UsdShade.Shader.Define(s, path + "/uv")
        reader.CreateIdAttr("UsdPrimvarReader_float2")
        reader.CreateInput("varname", Sdf.ValueTypeNames.String).ConnectToSource(name)
        place = UsdShade.Shader.Define(s, path + "/place")
        place.CreateIdAttr("UsdTransform2d")
        place.CreateInput("in", Sdf.ValueTypeNames.Float2).ConnectToSource(
            reader.CreateOutput("result", Sdf.ValueTypeNames.Float2))
        place.CreateInput("rotation", Sdf.ValueTypeNames.Float).Set(30.0)
        place.CreateInput("scale", Sdf.ValueTypeNames.Float2).Set((2, 3))
        place.CreateInput("translation", Sdf.ValueTypeNames.Float2).Set((0.25, 0.5))
        t = UsdShade.Shader.Define(s, path + "/oak")
        t.CreateIdAttr("UsdUVTexture")
        t.CreateInput("file", Sdf.ValueTypeNames.Asset).Set(texture)
        t.CreateInput("st", Sdf.ValueTypeNames.Float2).ConnectToSource(
            place.CreateOutput("result", Sdf.ValueTypeNames.Float2))
        t.CreateInput("wrapS", Sdf.ValueTypeNames.Token).Set("mirror")
        t.CreateInput("wrapT", Sdf.ValueTypeNames.Token).Set("clamp")
        t.CreateInput("scale", Sdf.ValueTypeNames.Float4).Set((0.5, 0.25, 1, 1))
        colour_in.ConnectToSource(t.CreateOutput("rgb", Sdf.ValueTypeNames.Float3))
        sh.CreateInput("opacity", Sdf.ValueTypeNames.Float).ConnectToSource(
            t.CreateOutput("a", Sdf.ValueTypeNames.Float))
        sh.CreateInput("opacityThreshold", Sdf.ValueTypeNames.Float).Set(0.3)
        n = UsdShade.Shader.Define(s, path + "/grain")
        n.CreateIdAttr("UsdUVTexture")
        n.CreateInput("file", Sdf.ValueTypeNames.Asset).Set("grain_normal.png")
        n.CreateInput("scale", Sdf.ValueTypeNames.Float4).Set((2, 2, 2, 1))
        n.CreateInput("bias", Sdf.ValueTypeNames.Float4).Set((-1, -1, -1, 0))
        n.CreateInput("sourceColorSpace", Sdf.ValueTypeNames.Token).Set("raw")
        n.CreateInput("st", Sdf.ValueTypeNames.Float2).ConnectToSource(
            reader.ConnectableAPI(), "result")
        sh.CreateInput("normal", Sdf.ValueTypeNames.Normal3f).ConnectToSource(
            n.CreateOutput("rgb", Sdf.ValueTypeNames.Float3))
    return m


def yard():
    s = stage("yard")
    root = UsdGeom.Xform.Define(s, "/Yard")
    s.SetDefaultPrim(root.GetPrim())
    Usd.ModelAPI(root).SetKind("assembly")
    root.AddTranslateOp().Set((10, 20, 0))
    # A pivot, angles in an order, a scale.
    a = UsdGeom.Xform.Define(s, "/Yard/mast")
    a.AddTranslateOp().Set((1, 2, 3))
    a.AddTranslateOp(opSuffix="pivot").Set((0, 0, 5))
    turn = a.AddRotateZYXOp()
    turn.Set((10, 20, 30), 1)
    turn.Set((100, 20, -30), 7)
    turn.Set((100, 80, -30), 10)
    a.AddScaleOp().Set((1, 2, 0.5))
    a.AddTranslateOp(opSuffix="pivot", isInverseOp=True)
    crate(s, "/Yard/mast/block", 2)
    # Ops of every kind, with suffixes, one inverted, one that is not listed.
    b = UsdGeom.Xform.Define(s, "/Yard/odd")
    b.AddTransformOp().Set(Gf.Matrix4d(1, 0.5, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, -4, 5, 1))
    b.AddRotateXOp(opSuffix="lean").Set(15)
    b.AddOrientOp().Set(Gf.Quatf(0.5, 0.5, 0.5, 0.5))
    b.AddRotateYZXOp().Set((5, 10, 15))
    b.AddTranslateOp(opSuffix="off").Set((1, 1, 1))
    b.AddScaleOp(opSuffix="thin").Set((1, 0.25, 1))
    b.AddTranslateOp(opSuffix="off", isInverseOp=True)
    b.GetPrim().CreateAttribute("xformOp:translate:spare", Sdf.ValueTypeNames.Double3).Set((99, 0, 0))
    crate(s, "/Yard/odd/lid", 1)
    # Leaves its parents.
    c = UsdGeom.Xform.Define(s, "/Yard/mast/kite")
    c.SetResetXformStack(True)
    k = c.AddTranslateOp()
    k.Set((0, 0, 40), 1)
    k.Set((0, 60, 40), 10)
    crate(s, "/Yard/mast/kite/sail", 3)
    # A sample that is blocked: no operation until the next one.
    d = UsdGeom.Xform.Define(s, "/Yard/gate")
    op = d.AddTranslateOp()
    op.Set((5, 0, 0), 1)
    op.GetAttr().Set(Sdf.ValueBlock(), 4)
    op.Set((8, 0, 0), 6)
    crate(s, "/Yard/gate/wing", 1)
    # Seen for nothing, or not seen at all.
    g = crate(s, "/Yard/help", 30)
    g.CreatePurposeAttr("guide")
    h = crate(s, "/Yard/hidden", 4)
    h.CreateVisibilityAttr("invisible")
    # Clockwise faces, sub-sets, colours, creases, holes.
    m = crate(s, "/Yard/bin", 2, "catmullClark")
    m.AddTranslateOp().Set((-6, 0, 0))
    m.CreateOrientationAttr("leftHanded")
    m.CreateDoubleSidedAttr(True)
    m.CreateFaceVertexIndicesAttr([0, 1, 3, 2, 0, 4, 5, 1, 1, 5, 7, 3, 3, 7, 6, 2, 2, 6, 4, 0])
    m.CreateDisplayColorPrimvar("vertex").Set([(i / 7, 0.5, 0.25) for i in range(8)])
    m.CreateDisplayOpacityPrimvar("vertex").Set([1 - i / 10 for i in range(8)])
    m.CreateCreaseIndicesAttr([0, 1, 3, 0, 4])
    m.CreateCreaseLengthsAttr([3, 2])
    m.CreateCreaseSharpnessesAttr([2, 10])
    m.CreateCornerIndicesAttr([7])
    m.CreateCornerSharpnessesAttr([4])
    m.CreateHoleIndicesAttr([2])
    red = material(s, "/Yard/Looks/red", (0.8, 0.1, 0.1))
    oak = material(s, "/Yard/Looks/oak", (0.2, 0.3, 0.4), "oak.png")
    blue = material(s, "/Yard/Looks/blue", (0.1, 0.1, 0.8))
    UsdShade.MaterialBindingAPI.Apply(m.GetPrim()).Bind(red)
    sub = UsdShade.MaterialBindingAPI(m).CreateMaterialBindSubset("lid", [1, 3], "face")
    UsdShade.MaterialBindingAPI.Apply(sub.GetPrim()).Bind(oak)
    UsdGeom.Subset.CreateGeomSubset(m, "worn", "face", [0, 4], "wear")
    # Bound from above: by a collection that is stronger, and by one that is stronger than all below.
    UsdShade.MaterialBindingAPI.Apply(root.GetPrim()).Bind(blue)
    od = s.GetPrimAtPath("/Yard/odd")
    UsdShade.MaterialBindingAPI.Apply(od).Bind(oak)
    coll = Usd.CollectionAPI.Apply(od, "all")
    coll.CreateIncludesRel().AddTarget("/Yard/odd")
    UsdShade.MaterialBindingAPI(od).Bind(coll, red)
    ma = s.GetPrimAtPath("/Yard/mast")
    UsdShade.MaterialBindingAPI.Apply(ma).Bind(oak, UsdShade.Tokens.strongerThanDescendants)
    bl = s.GetPrimAtPath("/Yard/mast/block")
    UsdShade.MaterialBindingAPI.Apply(bl).Bind(blue)
    # Solids, curves, points.
    for i, (kind, more) in enumerate([
            (UsdGeom.Cube, {"size": 3}), (UsdGeom.Sphere, {"radius": 2}),
            (UsdGeom.Cylinder, {"radius": 1.5, "height": 4, "axis": "X"}),
            (UsdGeom.Cone, {"radius": 1, "height": 3, "axis": "Y"}),
            (UsdGeom.Capsule, {"radius": 0.5, "height": 2}),
            (UsdGeom.Plane, {"width": 2, "length": 5, "axis": "X"})]):
        x = kind.Define(s, "/Yard/solid%d" % i)
        for n, v in more.items():
            x.GetPrim().GetAttribute(n).Set(v)
        x.AddTranslateOp().Set((0, -5 * i, 0))
    cu = UsdGeom.BasisCurves.Define(s, "/Yard/rope")
    cu.CreateTypeAttr("cubic")
    cu.CreateBasisAttr("bspline")
    cu.CreateWrapAttr("periodic")
    cu.CreatePointsAttr([(0, 0, 0), (4, 0, 0), (4, 4, 0), (0, 4, 1)])
    cu.CreateCurveVertexCountsAttr([4])
    cu.CreateWidthsAttr([0.1])
    cu.SetWidthsInterpolation("constant")
    po = UsdGeom.Points.Define(s, "/Yard/gulls")
    pts = po.CreatePointsAttr()
    for t in (1, 4, 10):
        pts.Set([(i, t, 3 * i) for i in range(5)], t)
    # Instances of one prototype, and a scattered one.
    lantern = s.CreateClassPrim("/lantern")
    crate(s, "/lantern/glass", 0.5)
    for i in range(3):
        x = UsdGeom.Xform.Define(s, "/Yard/string/lamp%d" % i)
        x.AddTranslateOp().Set((i, 0, 6))
        x.GetPrim().GetReferences().AddInternalReference("/lantern")
        x.GetPrim().SetInstanceable(True)
    pi = UsdGeom.PointInstancer.Define(s, "/Yard/stones")
    pi.AddTranslateOp().Set((0, 0, -3))
    big = UsdGeom.Xform.Define(s, "/Yard/stones/kinds/big")
    big.AddScaleOp().Set((2, 2, 2))
    crate(s, "/Yard/stones/kinds/big/rock", 1)
    crate(s, "/Yard/stones/kinds/small", 0.3)
    pi.CreatePrototypesRel().SetTargets(["/Yard/stones/kinds/big", "/Yard/stones/kinds/small"])
    pi.CreateProtoIndicesAttr([0, 1, 1, 0, 1])
    pi.CreatePositionsAttr([(i * 2, i, 0) for i in range(5)])
    pi.CreateOrientationsAttr([Gf.Quath(0.7071, 0.7071, 0, 0)] * 5)
    pi.CreateScalesAttr([(1, 1, 1 + i / 4) for i in range(5)])
    pi.CreateIdsAttr([10, 11, 12, 13, 14])
    pi.DeactivateIds([12])
    pi.CreateInvisibleIdsAttr([14])
    # A mesh that moves, one that changes.
    w = crate(s, "/Yard/flag", 1)
    rest = np.array(w.GetPointsAttr().Get())
    for t in range(1, 11, 3):
        w.GetPointsAttr().Set(Vt.Vec3fArray.FromNumpy(
            (rest + [0, 0.1 * t, 0]).astype(np.float32)), t)
    v = UsdGeom.Mesh.Define(s, "/Yard/wave")
    v.CreateSubdivisionSchemeAttr("none")
    for t, n in ((1, 1), (5, 2), (9, 3)):
        v.GetPointsAttr().Set([(i % 2, i // 2, t) for i in range(2 * n + 2)], t)
        v.GetFaceVertexCountsAttr().Set([4] * n, t)
        v.GetFaceVertexIndicesAttr().Set(
            [x for k in range(n) for x in (2 * k, 2 * k + 1, 2 * k + 3, 2 * k + 2)], t)
    # Cameras and lights.
    cam = UsdGeom.Camera.Define(s, "/Yard/eye")
    cam.AddTranslateOp().Set((0, -30, 10))
    cam.CreateFocalLengthAttr(35)
    cam.GetFocalLengthAttr().Set(35, 1)
    cam.GetFocalLengthAttr().Set(70, 10)
    cam.CreateHorizontalApertureAttr(36)
    cam.CreateVerticalApertureAttr(24)
    cam.CreateHorizontalApertureOffsetAttr(1.5)
    cam.CreateClippingRangeAttr((2, 5000))
    cam.CreateFStopAttr(2.8)
    cam.CreateFocusDistanceAttr(400)
    UsdLux.DistantLight.Define(s, "/Yard/sun").CreateIntensityAttr(3)
    sp = UsdLux.SphereLight.Define(s, "/Yard/bulb")
    sp.CreateIntensityAttr(500)
    sp.CreateExposureAttr(1)
    sp.CreateRadiusAttr(2)
    sp.CreateColorAttr((1, 0.5, 0.25))
    spot = UsdLux.SphereLight.Define(s, "/Yard/spot")
    shape = UsdLux.ShapingAPI.Apply(spot.GetPrim())
    shape.CreateShapingConeAngleAttr(30)
    shape.CreateShapingConeSoftnessAttr(0.5)
    # Values of users.
    p = root.GetPrim()
    p.SetCustomDataByKey("owner:name", "the yard")
    p.SetDocumentation("Where boats are mended.")
    p.CreateAttribute("userProperties:berth", Sdf.ValueTypeNames.Int).Set(7)
    tide = p.CreateAttribute("tide", Sdf.ValueTypeNames.Float)
    tide.Set(0.5, 1)
    tide.Set(1.5, 10)
    word = p.CreateAttribute("shift", Sdf.ValueTypeNames.String)
    word.Set("day", 1)
    word.Set("night", 6)
    return s


def heron():
    s = stage("heron", "Y", 1)
    root = UsdSkel.Root.Define(s, "/Heron")
    s.SetDefaultPrim(root.GetPrim())
    root.AddTranslateOp().Set((0, 1, 0))
    sk = UsdSkel.Skeleton.Define(s, "/Heron/bones")
    sk.AddRotateYOp().Set(90)
    joints = ["hip", "hip/neck", "hip/neck/head", "hip/leg"]
    sk.CreateJointsAttr(joints)
    move = lambda x, y, z: Gf.Matrix4d().SetTranslate((x, y, z))
    rest = [move(0, 1, 0), move(0, 1, 0.2), move(0, 0.5, 0.3), move(0, -0.6, 0)]
    bind = [rest[0], rest[1] * rest[0], rest[2] * rest[1] * rest[0], rest[3] * rest[0]]
    sk.CreateBindTransformsAttr(bind)
    # At rest it stands otherwise than when it was bound.
    rest[1] = Gf.Matrix4d().SetRotate(Gf.Rotation((1, 0, 0), 10)) * rest[1]
    sk.CreateRestTransformsAttr(rest)
    an = UsdSkel.Animation.Define(s, "/Heron/walk")
    an.CreateJointsAttr(["hip/leg", "hip", "hip/neck"])
    for t in (1, 4, 10):
        an.GetTranslationsAttr().Set([(0, -0.6, 0), (0, 1 + t / 20, 0), (0, 1, 0.2)], t)
        an.GetRotationsAttr().Set(Vt.QuatfArray([
            Gf.Quatf(Gf.Rotation((1, 0, 0), 5 * t).GetQuat()),
            Gf.Quatf(Gf.Rotation((0, 1, 0), -8 * t).GetQuat()),
            Gf.Quatf(Gf.Rotation((0, 0, 1), 3 * t).GetQuat())]), t)
        an.GetScalesAttr().Set(Vt.Vec3hArray([Gf.Vec3h(1, 1, 1)] * 2 + [Gf.Vec3h(1, 1 + t / 10, 1)]), t)
        an.GetBlendShapeWeightsAttr().Set([t / 10, 1 - t / 10], t)
    an.CreateBlendShapesAttr(["swallow", "open"])
    UsdSkel.BindingAPI.Apply(sk.GetPrim()).CreateAnimationSourceRel().SetTargets(["/Heron/walk"])
    UsdSkel.BindingAPI.Apply(root.GetPrim()).CreateSkeletonRel().SetTargets(["/Heron/bones"])
    m = crate(s, "/Heron/body", 1)
    m.AddTranslateOp().Set((50, 50, 50))  # does not count
    b = UsdSkel.BindingAPI.Apply(m.GetPrim())
    b.CreateGeomBindTransformAttr(Gf.Matrix4d().SetScale((1, 2, 1)) * move(0, 1, 0))
    b.CreateJointsAttr(["hip/neck", "hip", "hip/neck/head"])
    idx, w = [], []
    for i in range(8):
        idx += [i % 3, (i + 1) % 3]
        w += [0.25, 0.75] if i % 2 else [1.0, 0.0]
    b.CreateJointIndicesPrimvar(False, 2).Set(idx)
    b.CreateJointWeightsPrimvar(False, 2).Set(w)
    b.CreateBlendShapesAttr(["open", "swallow"])
    o = UsdSkel.BlendShape.Define(s, "/Heron/body/open")
    o.CreateOffsetsAttr([(0, 0.5, 0), (0.25, 0, 0)])
    o.CreatePointIndicesAttr([7, 2])
    q = UsdSkel.BlendShape.Define(s, "/Heron/body/swallow")
    q.CreateOffsetsAttr([(0.1 * i, 0, 0) for i in range(8)])
    q.CreateNormalOffsetsAttr([(0, 0, 0.1)] * 8)
    between = q.CreateInbetween("half")
    between.SetWeight(0.5)
    between.SetOffsets([(0, 0.2 * i, 0) for i in range(8)])
    b.CreateBlendShapeTargetsRel().SetTargets(["/Heron/body/open", "/Heron/body/swallow"])
    hat = crate(s, "/Heron/hat", 0.2)
    r = UsdSkel.BindingAPI.Apply(hat.GetPrim())
    r.CreateJointIndicesPrimvar(True, 1).Set([2])
    r.CreateJointWeightsPrimvar(True, 1).Set([1])
    r.CreateGeomBindTransformAttr(move(0, 2.5, 0.5))
    # A skeleton that nothing moves: at rest, not as it was bound.
    UsdGeom.Xform.Define(s, "/Still").AddTranslateOp().Set((5, 0, 0))
    r2 = UsdSkel.Root.Define(s, "/Still/root")
    s2 = UsdSkel.Skeleton.Define(s, "/Still/root/bones")
    s2.CreateJointsAttr(joints)
    s2.CreateBindTransformsAttr(bind)
    s2.CreateRestTransformsAttr(rest)
    m2 = crate(s, "/Still/root/body", 1)
    b2 = UsdSkel.BindingAPI.Apply(m2.GetPrim())
    b2.CreateSkeletonRel().SetTargets(["/Still/root/bones"])
    b2.CreateJointIndicesPrimvar(False, 1).Set([2] * 8)
    b2.CreateJointWeightsPrimvar(False, 1).Set([1.0] * 8)
    return s


def skins(s):
    found = {}
    cache = UsdSkel.Cache()
    every = Usd.TraverseInstanceProxies(Usd.PrimDefaultPredicate)
    for prim in s.Traverse(every):
        if prim.IsA(UsdSkel.Root):
            root = UsdSkel.Root(prim)
            cache.Populate(root, every)
            for binding in cache.ComputeSkelBindings(root, every):
                skeleton = cache.GetSkelQuery(binding.GetSkeleton())
                for target in binding.GetSkinningTargets():
                    found[target.GetPrim().GetPath()] = (skeleton, target, binding.GetSkeleton())
    return found


def points(prim, t, bound):
    pts = UsdGeom.PointBased(prim).GetPointsAttr().Get(t)
    if pts is None:
        return None
    world = np.array(UsdGeom.Imageable(prim).ComputeLocalToWorldTransform(t))
    if prim.GetPath() in bound:
        skeleton, target, owner = bound[prim.GetPath()]
        pts = Vt.Vec3fArray(pts)
        moves = skeleton.GetAnimQuery()
        if target.HasBlendShapes() and moves:
            blend = UsdSkel.BlendShapeQuery(UsdSkel.BindingAPI(prim))
            w = target.GetBlendShapeMapper().Remap(moves.ComputeBlendShapeWeights(t))
            weights, shapes, subs = blend.ComputeSubShapeWeights(w)
            blend.ComputeDeformedPoints(
                weights, shapes, subs, blend.ComputeBlendShapePointIndices(),
                blend.ComputeSubShapePointOffsets(), pts)
        if target.HasJointInfluences():
            joints = skeleton.ComputeSkinningTransforms(t)
            world = np.array(UsdGeom.Imageable(owner.GetPrim()).ComputeLocalToWorldTransform(t))
            if target.IsRigidlyDeformed():
                own = np.array(target.ComputeSkinnedTransform(joints, t))
                pts = np.array(pts) @ own[:3, :3] + own[3, :3]
            else:
                target.ComputeSkinnedPoints(joints, pts, t)
    return np.array(pts) @ world[:3, :3] + world[3, :3]


def told(s):
    out = {"version": "usd-core " + ".".join(map(str, Usd.GetVersion())), "boxes": {}, "materials": {}}
    bound = skins(s)
    every = Usd.TraverseInstanceProxies(Usd.PrimDefaultPredicate)
    under = [p.GetPath() for p in s.Traverse() if p.IsA(UsdGeom.PointInstancer)]
    for prim in s.Traverse(every):
        path = prim.GetPath()
        if any(path.HasPrefix(u) and path != u for u in under):
            continue
        boxes = {}
        for t in TIMES:
            if prim.IsA(UsdGeom.PointBased):
                p = points(prim, t, bound)
            elif prim.IsA(UsdGeom.PointInstancer):
                e = UsdGeom.PointInstancer(prim).ComputeExtentAtTime(t, t)
                p = corners(e, prim, t) if e else None
            elif prim.IsA(UsdGeom.Gprim):
                p = corners(UsdGeom.Boundable.ComputeExtentFromPlugins(UsdGeom.Boundable(prim), t), prim, t)
            else:
                continue
            if p is not None and len(p):
                boxes["%g" % t] = [round(float(x), 5) for x in [*p.min(0), *p.max(0)]]
        if boxes:
            out["boxes"][str(path)[1:]] = boxes
        if prim.IsA(UsdGeom.Mesh):
            m, _ = UsdShade.MaterialBindingAPI(prim).ComputeBoundMaterial()
            if m:
                out["materials"][str(path)[1:]] = m.GetPrim().GetName()
    return out


def corners(e, prim, t):
    world = np.array(UsdGeom.Imageable(prim).ComputeLocalToWorldTransform(t))
    c = np.array([[e[i][0], e[j][1], e[k][2]] for i in (0, 1) for j in (0, 1) for k in (0, 1)])
    return c @ world[:3, :3] + world[3, :3]


for make in (yard, heron):
    s = make()
    s.GetRootLayer().Save()
    s = Usd.Stage.Open(s.GetRootLayer().realPath)
    with open(os.path.join(HERE, make.__name__ + ".json"), "w") as f:
        json.dump(told(s), f, indent=1)
        f.write("\n")
