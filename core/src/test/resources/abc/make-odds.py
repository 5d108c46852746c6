# Writes odds.abc with the standard's own library: python make-odds.py odds.abc, with alembic3d 1.8.12.1.
import sys

import imath
from alembic3d import AbcGeom as G
from alembic3d import AbcMaterial as M
from alembic3d.Abc import *
from alembic3d.AbcCoreAbstract import *
from arrays import *

archive = OArchive(sys.argv[1])
steady = archive.addTimeSampling(TimeSampling(1 / 25.0, 0.0))
top = archive.getTop()

# A material whose name a mesh and one of its face sets are given.
M.OMaterial(top, "tar")
hull = G.OPolyMesh(top, "hull")
schema = hull.getSchema()
points = [(0, 0, 0), (2, 0, 0), (2, 1, 0), (0, 1, 0), (1, 2, 0)]
schema.set(G.OPolyMeshSchemaSample(v3(points), ints([0, 3, 2, 1, 3, 4, 2]), ints([4, 3])))
M.addMaterialAssignment(hull, "/looks/tar")
lid = schema.createFaceSet("lid")
lid.getSchema().set(G.OFaceSetSchemaSample(ints([1, 7, 1])))
M.addMaterialAssignment(lid, "/looks/copper")

# Parameters of every scope and of several types.
holder = schema.getArbGeomParams()
S = G.GeometryScope
G.OC4fGeomParam(holder, "dye", False, S.kVertexScope, 1).set(
    G.OC4fGeomParamSample(filled(imath.C4fArray, [(i / 8, 0, 0, 1) for i in range(5)], lambda c: imath.Color4f(*c)), S.kVertexScope)
)
G.OC3cGeomParam(holder, "paint", False, S.kUniformScope, 1).set(
    G.OC3cGeomParamSample(filled(imath.C3cArray, [(255, 0, 51), (0, 0, 0)], lambda c: imath.Color3c(*c)), S.kUniformScope)
)
G.OV2fGeomParam(holder, "lightmap", True, S.kFacevaryingScope, 1).set(
    G.OV2fGeomParamSample(v2([(0, 0), (1, 1)]), unsigned([0, 1, 0, 1, 0, 1, 0]), S.kFacevaryingScope)
)
G.OInt32GeomParam(holder, "plank", False, S.kUniformScope, 1).set(
    G.OInt32GeomParamSample(ints([7, 9]), S.kUniformScope)
)
G.OFloatGeomParam(holder, "age", False, S.kConstantScope, 1).set(
    G.OFloatGeomParamSample(floats([12.5]), S.kConstantScope)
)
G.OStringGeomParam(holder, "mark", False, S.kUniformScope, 1).set(
    G.OStringGeomParamSample(filled(imath.StringArray, ["bow", "stern"]), S.kUniformScope)
)
G.OFloatGeomParam(holder, "short", False, S.kVertexScope, 1).set(
    G.OFloatGeomParamSample(floats([1, 2]), S.kVertexScope)
)


def curves(name, rows, counts, kind, wrap, basis, **more):
    line = G.OCurves(top, name).getSchema()
    line.set(G.OCurvesSchemaSample(v3(rows), ints(counts), kind, wrap, iBasis=basis, **more))


row = [(i, i % 2, 0) for i in range(7)]
K, W, B = G.CurveType, G.CurvePeriodicity, G.BasisType
curves("bezier", row, [4, 3], K.kCubic, W.kNonPeriodic, B.kBezierBasis)
curves("ring", row, [4, 3], K.kCubic, W.kPeriodic, B.kBsplineBasis)
curves("hermite", row, [7], K.kCubic, W.kNonPeriodic, B.kHermiteBasis)
curves(
    "nurbs",
    row[:4],
    [4],
    K.kVariableOrder,
    W.kNonPeriodic,
    B.kNoBasis,
    iPosWeight=floats([1, 2, 1, 1]),
    iOrders=filled(imath.UnsignedCharArray, [3]),
    iKnots=floats([0, 0, 0, 1, 2, 2, 2]),
)

lamp = G.OLight(top, "lamp")
eye = G.OCamera(top, "eye")
schema = eye.getSchema()
schema.setTimeSampling(steady)
for near in (0.1, 0.2):
    sample = G.CameraSample()
    sample.setNearClippingPlane(near)
    sample.setLensSqueezeRatio(2)
    schema.set(sample)

# A turn of 170 degrees between two samples, sheared on the way by an outer scale.
boom = G.OXform(top, "boom")
schema = boom.getSchema()
schema.setTimeSampling(steady)
for angle in (0.0, 170.0):
    sample = G.XformSample()
    sample.addOp(G.XformOp(G.XformOperationType.kRotateZOperation, 0), angle)
    schema.set(sample)
depth = OInt32Property(schema.getUserProperties(), "depth", steady)
depth.setValue(3)
depth.setValue(5)
slant = G.OXform(boom, "slant")
sample = G.XformSample()
sample.addOp(G.XformOp(G.XformOperationType.kScaleOperation, 0), imath.V3d(1, 2, 1))
sample.addOp(G.XformOp(G.XformOperationType.kRotateOperation, 0), imath.V3d(0, 0, 1), 45.0)
slant.getSchema().set(sample)
placed = G.OXform(boom, "placed")
sample = G.XformSample()
matrix = imath.M44d()
matrix.makeIdentity()
matrix[3][0], matrix[3][1], matrix[3][2] = 1, 2, 3
sample.addOp(G.XformOp(G.XformOperationType.kMatrixOperation, 0), matrix)
placed.getSchema().set(sample)
# Values beside a schema, and sets, creases and borders that have no place.
label = OStringProperty(placed.getProperties(), "label")
label.setValue("spare")
more = OCompoundProperty(placed.getProperties(), "ledger")
OInt32Property(more, "page").setValue(12)
keel = G.OSubD(top, "keel")
sample = G.OSubDSchemaSample(v3(points), ints([0, 3, 2, 1]), ints([4]))
sample.setFaceVaryingInterpolateBoundary(1)
keel.getSchema().set(sample)
wake = G.OPolyMesh(top, "wake")
schema = wake.getSchema()
schema.setTimeSampling(steady)
patch = schema.createFaceSet("foam").getSchema()
patch.setTimeSampling(steady)
schema.set(G.OPolyMeshSchemaSample(v3(points), ints([0, 3, 2, 1]), ints([4])))
patch.set(G.OFaceSetSchemaSample(ints([0])))
schema.set(G.OPolyMeshSchemaSample(v3(points), ints([0, 3, 2, 1, 3, 4, 2]), ints([4, 3])))
patch.set(G.OFaceSetSchemaSample(ints([1])))
del archive
