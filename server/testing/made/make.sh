#!/usr/bin/env bash
# Makes the picture files of this folder, and beside each what an independent program reads from it, as a PNG of the same name. Run by hand
# on a Debian with imagemagick, libheif-examples, libjxl-tools, libopenjp2-tools and libraw-bin; what it made is kept, so that the tests need
# none of them.
set -euo pipefail
cd "$(dirname "$0")"
rm -f -- *.dng *.heic *.jxl *.jp2 *.j2k *.gif *.bmp *.tif *.png
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT

# No chunks of gamma: what is written from these is sRGB.
convert() { command convert -define png:exclude-chunks=gAMA,cHRM,date,time,bKGD "$@"; }

# Sources: slopes of colour, a disc and a few hard edges; in 16 bits, 8 bits, grey, with alpha, and of odd size.
convert -size 48x32 -depth 16 gradient:'#20304a'-'#f0c890' \( -size 48x32 gradient:black-white -rotate 90 -resize 48x32\! \) \
  -compose softlight -composite -fill '#c02818' -draw 'circle 14,14 20,14' -fill '#1858a0' -draw 'rectangle 30,4 42,12' \
  -fill '#204818' -draw 'rectangle 28,20 45,29' -strip "PNG48:$work/c16.png"
convert "$work/c16.png" -depth 8 "PNG24:$work/c8.png"
convert "$work/c16.png" -colorspace Gray -depth 16 -define png:color-type=0 "$work/g16.png"
convert "$work/c8.png" -colorspace Gray -depth 8 -define png:color-type=0 "$work/g8.png"
convert "$work/c8.png" \( -size 48x32 gradient:white-black \) -alpha off -compose CopyOpacity -composite "PNG32:$work/a8.png"
convert "$work/c8.png" -crop 47x31+0+0 +repage "PNG24:$work/odd.png"
convert "$work/c8.png" -resize 240x160 "PNG24:$work/large.png"

heic() { heif-enc "${@:2}" -o "$1.heic" > "$work/log" 2>&1; heif-convert "$1.heic" "$1.heic.png" > "$work/log" 2>&1; }
heic good -q 90 "$work/c8.png"
heic plain -q 70 "$work/c8.png"
heic poor -q 30 "$work/c8.png"
heic lossless -L "$work/c8.png"
heic full-colour -q 90 -p chroma=444 "$work/c8.png"
heic grey -q 90 "$work/g8.png"
heic clear -q 90 "$work/a8.png"
heic odd -q 90 "$work/odd.png"
heic large -q 80 "$work/large.png"

jxl() { cjxl --quiet "$2" "$1.jxl" "${@:3}"; djxl --quiet "$1.jxl" "$1.jxl.png"; }
jxl lossless "$work/c8.png" -d 0
jxl lossless16 "$work/c16.png" -d 0
jxl good "$work/c8.png" -d 1
jxl poor "$work/c8.png" -d 4
jxl grey "$work/g8.png" -d 0
jxl grey16 "$work/g16.png" -d 0
jxl clear "$work/a8.png" -d 0
jxl odd "$work/odd.png" -d 1
jxl boxed "$work/c8.png" -d 1 --container=1
jxl progressive "$work/large.png" -d 1 -p

jp2() { opj_compress -i "$2" -o "$1" "${@:3}" > "$work/log"; opj_decompress -i "$1" -o "$1.png" > "$work/log"; }
jp2 lossless.jp2 "$work/c8.png"
jp2 stream.j2k "$work/c8.png"
jp2 lossy.jp2 "$work/c8.png" -r 10 -I
jp2 lossless16.jp2 "$work/c16.png"
jp2 grey.jp2 "$work/g8.png"
jp2 grey16.jp2 "$work/g16.png"
jp2 tiled.jp2 "$work/large.png" -t 64,64
jp2 layered.jp2 "$work/large.png" -r 40,20,5
jp2 odd.jp2 "$work/odd.png" -n 3
jp2 clear.jp2 "$work/a8.png"

by_magick() { convert "$1[0]" -depth "${2:-8}" "PNG${3:-24}:$1.png"; }
convert "$work/c8.png" -colors 256 palette.gif; by_magick palette.gif
convert "$work/c8.png" -colors 16 few.gif; by_magick few.gif
convert "$work/g8.png" grey.gif; by_magick grey.gif
convert "$work/large.png" -interlace GIF woven.gif; by_magick woven.gif
convert -delay 20 "$work/c8.png" \( "$work/c8.png" -negate \) moving.gif; by_magick moving.gif
convert "$work/a8.png" -channel A -threshold 50% clear.gif; convert clear.gif -background white -flatten PNG24:clear.gif.png

convert "$work/c8.png" BMP3:plain.bmp; by_magick plain.bmp
convert "$work/odd.png" BMP3:odd.bmp; by_magick odd.bmp
convert "$work/c8.png" -type Palette -colors 200 -compress None BMP3:palette.bmp; by_magick palette.bmp
convert "$work/g8.png" -colors 2 -type bilevel BMP3:two.bmp; by_magick two.bmp
convert "$work/c8.png" -colors 12 -type Palette -compress None BMP3:sixteen.bmp; by_magick sixteen.bmp

tif() { convert "$2" "${@:3}" "$1.tif"; convert "$1.tif[0]" "PNG48:$1.tif.png"; }
tif plain "$work/c8.png" -compress None
tif lzw "$work/c8.png" -compress LZW
tif zip16 "$work/c16.png" -compress Zip
tif packbits "$work/c8.png" -compress RLE
tif jpeg "$work/large.png" -compress JPEG -quality 90
tif tiled "$work/large.png" -compress LZW -define tiff:tile-geometry=128x128
tif planes "$work/c8.png" -interlace Plane -compress None
tif motorola "$work/c16.png" -endian MSB -compress None
tif grey "$work/g8.png" -compress LZW
tif grey16 "$work/g16.png" -compress LZW
tif fax "$work/g8.png" -monochrome -compress Group4
tif palette "$work/c8.png" -type Palette -colors 100 -compress LZW
tif clear "$work/a8.png" -compress LZW
convert clear.tif PNG32:clear.tif.png
tif whole32 "$work/c16.png" -depth 32 -compress None
convert "$work/c16.png" -colorspace RGB -depth 32 -define quantum:format=floating-point -compress LZW -define tiff:predictor=1 float.tif
cp "$work/c16.png" float.tif.png
convert "$work/g16.png" -colorspace LinearGray -depth 32 -define quantum:format=floating-point -compress LZW -define tiff:predictor=1 float-grey.tif
cp "$work/g16.png" float-grey.tif.png
convert "$work/c8.png" -compress LZW TIFF64:long.tif; by_magick long.tif
# Three pages.
convert "$work/c8.png" "$work/g8.png" \( "$work/c8.png" -negate \) -compress LZW pages.tif
for i in 0 1 2; do convert "pages.tif[$i]" "pages.tif.$i.png"; done

# Raw files, of our own, developed by another program: the camera's white, no brightening, sRGB's curve.
npx esbuild ../dng-files.ts --bundle --platform=node --format=cjs --log-level=error | node -
for name in mosaic turned linear; do
  dcraw_emu -w -W -4 -g 2.4 12.92 -T "$name.dng"
  convert "$name.dng.tiff" "PNG48:$name.dng.png"
  rm "$name.dng.tiff"
done
