package photographs

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"math"

	"golang.org/x/image/draw"
	"golang.org/x/image/webp"

	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
)

// The copies that are made of a photograph: one to look at and to lay beside others, one for
// lists. JPEG without tags, since the encoder writes none.
const (
	copyPX       = 2_000_000 // pixels at most
	smallSidePX  = 360       // the longer side at most
	copyQuality  = 90
	smallQuality = 82
)

// decoders read the pixels of each kind of file, and first only its size.
var decoders = map[string]struct {
	config func(data []byte) (image.Config, error)
	decode func(data []byte) (image.Image, error)
}{
	photo.JPEG: {func(d []byte) (image.Config, error) { return jpeg.DecodeConfig(bytes.NewReader(d)) }, func(d []byte) (image.Image, error) { return jpeg.Decode(bytes.NewReader(d)) }},
	photo.PNG:  {func(d []byte) (image.Config, error) { return png.DecodeConfig(bytes.NewReader(d)) }, func(d []byte) (image.Image, error) { return png.Decode(bytes.NewReader(d)) }},
	photo.WebP: {func(d []byte) (image.Config, error) { return webp.DecodeConfig(bytes.NewReader(d)) }, func(d []byte) (image.Image, error) { return webp.Decode(bytes.NewReader(d)) }},
}

// decode reads a picture file; what is wrong with it is an error of field file.
func decode(data []byte) (kind string, picture image.Image, err error) {
	kind, err = photo.KindOf(data)
	if err != nil {
		return "", nil, quantity.Errorf("file", "%v", err)
	}
	config, err := decoders[kind].config(data)
	if err != nil {
		return "", nil, quantity.Errorf("file", "begins like a picture and cannot be read as one (%v); take it again or save it anew", err)
	}
	if err := photo.CheckSize(config.Width, config.Height); err != nil {
		return "", nil, quantity.Errorf("file", "%v", err)
	}
	if picture, err = decoders[kind].decode(data); err != nil {
		return "", nil, quantity.Errorf("file", "begins like a picture and cannot be read to its end (%v); it may have been cut off: send it again", err)
	}
	return kind, picture, nil
}

// CheckCopy reports bytes that are no copy of a photograph as this program makes them.
func CheckCopy(data []byte) error {
	kind, err := photo.KindOf(data)
	if err == nil && kind != photo.JPEG {
		err = fmt.Errorf("is a %s picture; copies are JPEG", kind)
	}
	if err != nil {
		return err
	}
	_, _, err = decode(data)
	return err
}

// shrunk is a picture on a white ground with at most so many pixels.
func shrunk(in image.Image, width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	if in.Bounds().Dx() == width && in.Bounds().Dy() == height {
		draw.Draw(out, out.Rect, in, in.Bounds().Min, draw.Over)
	} else {
		in = halved(in, width)
		draw.BiLinear.Scale(out, out.Rect, in, in.Bounds(), draw.Over, nil)
	}
	return out
}

// halved takes the mean of four pixels for one where a camera's picture (JPEG, 4:2:0) is at
// least twice as wide as it is to be: its colours have that size already, and what is left
// to the resizer takes a quarter of the time.
func halved(in image.Image, width int) image.Image {
	full, ok := in.(*image.YCbCr)
	if !ok || full.SubsampleRatio != image.YCbCrSubsampleRatio420 || full.Rect.Min != (image.Point{}) || full.Rect.Dx() < 2*width {
		return in
	}
	w, h := full.Rect.Dx()/2, full.Rect.Dy()/2
	out := &image.YCbCr{Y: make([]uint8, w*h), YStride: w, Cb: full.Cb, Cr: full.Cr, CStride: full.CStride, SubsampleRatio: image.YCbCrSubsampleRatio444, Rect: image.Rect(0, 0, w, h)}
	for y := range h {
		upper, lower := full.Y[2*y*full.YStride:], full.Y[(2*y+1)*full.YStride:]
		for x := range w {
			out.Y[y*w+x] = uint8((int(upper[2*x]) + int(upper[2*x+1]) + int(lower[2*x]) + int(lower[2*x+1]) + 2) / 4)
		}
	}
	return out
}

// fitting is the size of a picture made smaller by a share of its sides, never larger.
func fitting(b image.Rectangle, share float64) (width, height int) {
	share = min(1, share)
	return max(1, int(math.Round(share*float64(b.Dx())))), max(1, int(math.Round(share*float64(b.Dy()))))
}

// copies are those that are made of a photograph.
type copies struct {
	large, small []byte
	size         image.Point
	blur         float64
}

// copiesOf makes the copies of a picture, turned upright.
func copiesOf(in image.Image, orientation int) (out copies, err error) {
	b := in.Bounds()
	w, h := fitting(b, math.Sqrt(copyPX/float64(b.Dx()*b.Dy())))
	large := photo.Turn(shrunk(in, w, h), orientation)
	out.size, out.blur = large.Rect.Size(), photo.Blur(photo.GreyOf(large))
	w, h = fitting(large.Rect, smallSidePX/float64(max(large.Rect.Dx(), large.Rect.Dy())))
	if out.large, err = encode(large, copyQuality); err != nil {
		return out, err
	}
	out.small, err = encode(shrunk(large, w, h), smallQuality)
	return out, err
}

func encode(picture image.Image, quality int) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality}); err != nil {
		return nil, fmt.Errorf("make a copy of the picture: %w", err)
	}
	return out.Bytes(), nil
}
