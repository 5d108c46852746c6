"""Writes rich.usdc and rich-again.usda from rich.usda with the standard's own library (usd-core 26.11,
PyPI); and crates of older versions from old.usda, which is rich.usda without what these cannot hold."""
import os
import subprocess
import sys

PACK = """
from pxr import Sdf
inner = Sdf.ZipFileWriter.CreateNew('inner.usdz')
inner.AddFile('newer.usdc', 'newer.usdc')
inner.Save()
whole = Sdf.ZipFileWriter.CreateNew('yard.usdz')
whole.AddFile('rich.usdc', 'rich.usdc')
whole.AddFile('newer.usda', 'parts/newer.usda')
whole.AddFile('inner.usdz', 'parts/inner.usdz')
whole.Save()
"""
CODE = """
import sys
from pxr import Sdf
assert Sdf.Layer.FindOrOpen(sys.argv[1]).Export(sys.argv[2])
"""


def export(source, target, version=None):
    env = dict(os.environ)
    if version:
        env['USD_WRITE_NEW_USDC_FILES_AS_VERSION'] = version
    subprocess.run([sys.executable, '-c', CODE, source, target], env=env, check=True)


text = open('rich.usda', encoding='utf-8').read()
text = text.replace('        timecode when = 12.5\n', '').replace(' (offset = 2)', '')
open('old.usda', 'w', encoding='utf-8').write(text)
export('rich.usda', 'rich.usdc')
export('rich.usda', 'rich-again.usda')
export('newer.usda', 'newer.usdc')
export('newest.usda', 'newest.usdc')
for minor in range(3, 9):
    try:
        export('old.usda', 'old-%d.usdc' % minor, '0.%d.0' % minor)
    except subprocess.CalledProcessError:
        print('no version 0.%d' % minor)
subprocess.run([sys.executable, '-c', PACK], check=True)
os.remove('inner.usdz')
