#!/usr/bin/env bash
# Makes the fixtures of this folder anew. Needs Debian's gdal-bin, and Python with OpenEXR for the .exr.
set -euo pipefail
cd "$(dirname "$0")"
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT

# Slope and aspect of the real elevation model: compared with the kept ones, which are not overwritten.
gdaldem slope -q jacksboro.asc "$work/slope.asc" -of AAIGrid
grep -v '^[A-Za-z]' "$work/slope.asc" | sed 's/^ *//' > "$work/slope.txt"
sed -e 's/^dx .*/cellsize 80/I; /^dy /Id; s/^cellsize .*/cellsize 80/I' jacksboro.asc > "$work/square.asc"
gdaldem aspect -q "$work/square.asc" "$work/aspect.asc" -of AAIGrid
grep -v '^[A-Za-z]' "$work/aspect.asc" | sed 's/^ *//' > "$work/aspect.txt"
for kept in jacksboro_gdal_slope.txt:slope jacksboro_square_gdal_aspect.txt:aspect; do
  paste -d' ' <(tr -s ' \n' '\n' < "$work/${kept#*:}.txt") <(tr -s ' \n' '\n' < "${kept%:*}") |
    awk -v what="${kept#*:}" 'NF==2{d=$1-$2; if(d<0)d=-d; if(d>m)m=d; n++} END{print n " of " what ", farthest from the kept ones by " m+0}'
done

# A window of 24 x 20 heights as pictures.
gdal_translate -q -srcwin 8 8 24 20 jacksboro.asc "$work/window.tif" -a_srs EPSG:32617 -ot Float32
gdal_translate -q "$work/window.tif" geo_f32.tif -co COMPRESS=DEFLATE -co PREDICTOR=3
gdal_translate -q "$work/window.tif" geo_i16_tiled.tif -ot Int16 -co COMPRESS=DEFLATE -co TILED=YES -co BLOCKXSIZE=16 -co BLOCKYSIZE=16 -a_nodata 700
gdal_translate -q "$work/window.tif" grey_u16.tif -ot UInt16 -co COMPRESS=LZW -scale 400 900 0 65535 -a_nodata none -co PROFILE=BASELINE
gdal_translate -q "$work/window.tif" degrees_f32.tif -a_srs EPSG:4326 -a_ullr -84.4 36.6 -84.3 36.5
gdal_translate -q "$work/window.tif" "$work/window.asc" -of AAIGrid
grep -v '^[A-Za-z]' "$work/window.asc" | sed 's/^ *//' > window.txt
python3 - <<'PY'
import numpy, OpenEXR
heights = numpy.loadtxt("window.txt").reshape(20, 24).astype(numpy.float32)
heights[3, 4] = numpy.nan
header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
OpenEXR.File(header, {"height": heights}).write("heights.exr")
PY
rm -f ./*.aux.xml
