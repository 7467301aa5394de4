package photographs

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/photo"
)

// ramp is a picture that is brighter to the right and redder below.
func ramp(w, h int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			out.SetRGBA(x, y, color.RGBA{uint8(255 * y / h), uint8(255 * x / w), 40, 255})
		}
	}
	return out
}

// Copies are no larger than they may be, keep their shape, and are turned.
func TestCopiesOfEverySizeAndOrientation(t *testing.T) {
	for _, c := range []struct{ w, h, orientation, copyW, copyH, smallW, smallH int }{
		{100, 50, 1, 100, 50, 100, 50},
		{100, 50, 6, 50, 100, 50, 100},
		{4000, 1000, 1, 2828, 707, 360, 90},
		{1000, 4000, 8, 2828, 707, 360, 90},
		{3000, 3000, 3, 1414, 1414, 360, 360},
		{1, 1, 1, 1, 1, 1, 1},
	} {
		made, err := copiesOf(ramp(c.w, c.h), c.orientation)
		if err != nil {
			t.Fatal(err)
		}
		for _, of := range []struct {
			data []byte
			w, h int
		}{{made.large, c.copyW, c.copyH}, {made.small, c.smallW, c.smallH}} {
			got, err := jpeg.DecodeConfig(bytes.NewReader(of.data))
			if err != nil || got.Width != of.w || got.Height != of.h {
				t.Errorf("%d × %d held as %d: %d × %d, want %d × %d (%v)", c.w, c.h, c.orientation, got.Width, got.Height, of.w, of.h, err)
			}
		}
		if made.size != (image.Point{X: c.copyW, Y: c.copyH}) {
			t.Errorf("%d × %d: said to be %v", c.w, c.h, made.size)
		}
	}
}

// Taking the mean of four pixels first changes a camera's picture by less than a step of its
// own brightness.
func TestHalvingFirstChangesNothingThatIsSeen(t *testing.T) {
	var file bytes.Buffer
	if err := jpeg.Encode(&file, ramp(1200, 800), &jpeg.Options{Quality: 95}); err != nil {
		t.Fatal(err)
	}
	_, camera, err := decode(file.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	if _, fast := camera.(*image.YCbCr); !fast {
		t.Fatalf("a JPEG is read as %T", camera)
	}
	if half := halved(camera, 300); half.Bounds().Dx() != 600 || half.Bounds().Dy() != 400 {
		t.Errorf("halved to %v", half.Bounds())
	}
	if same := halved(camera, 700); same != camera {
		t.Error("halved though more is wanted")
	}
	fast, slow := shrunk(camera, 300, 200), shrunk(upright(camera), 300, 200)
	for i := range fast.Pix {
		if d := int(fast.Pix[i]) - int(slow.Pix[i]); d < -4 || d > 4 {
			t.Fatalf("pixel %d differs by %d", i/4, d)
		}
	}
}

// upright is a picture in no format of a camera, so that it is resized as it is.
func upright(in image.Image) *image.RGBA {
	out := image.NewRGBA(in.Bounds())
	for y := range in.Bounds().Dy() {
		for x := range in.Bounds().Dx() {
			out.Set(x, y, in.At(x, y))
		}
	}
	return out
}

// A picture with holes in it stands on white: a copy has no transparency.
func TestWhatIsTransparentBecomesWhite(t *testing.T) {
	in := image.NewNRGBA(image.Rect(0, 0, 8, 8))
	in.SetNRGBA(3, 3, color.NRGBA{10, 10, 10, 255})
	out := shrunk(in, 8, 8)
	if c := out.RGBAAt(0, 0); c != (color.RGBA{255, 255, 255, 255}) {
		t.Errorf("a hole is %v", c)
	}
	if c := out.RGBAAt(3, 3); c != (color.RGBA{10, 10, 10, 255}) {
		t.Errorf("what is there is %v", c)
	}
}

// webpPixel is a lossless WebP of one pixel.
const webpPixel = "UklGRhoAAABXRUJQVlA4TA0AAAAvAAAAEAcQERGIiP4HAA=="

func TestEveryKindIsReadAndWhatIsCutOffIsNot(t *testing.T) {
	var asPNG, asJPEG bytes.Buffer
	if err := png.Encode(&asPNG, ramp(40, 30)); err != nil {
		t.Fatal(err)
	}
	if err := jpeg.Encode(&asJPEG, ramp(40, 30), nil); err != nil {
		t.Fatal(err)
	}
	asWebP, err := base64.StdEncoding.DecodeString(webpPixel)
	if err != nil {
		t.Fatal(err)
	}
	for kind, data := range map[string][]byte{photo.PNG: asPNG.Bytes(), photo.JPEG: asJPEG.Bytes(), photo.WebP: asWebP} {
		got, picture, err := decode(data)
		if err != nil || got != kind || picture.Bounds().Empty() {
			t.Errorf("%s: %s %v", kind, got, err)
		}
		if _, _, err := decode(data[:len(data)*2/3]); err == nil || !strings.HasPrefix(err.Error(), "file: ") {
			t.Errorf("%s, cut off: %v", kind, err)
		}
	}
	if err := CheckCopy(asJPEG.Bytes()); err != nil {
		t.Error(err)
	}
	if CheckCopy(asPNG.Bytes()) == nil || CheckCopy([]byte("no picture")) == nil {
		t.Error("a copy that this program does not make was taken")
	}
}

// What a file claims to be is held against its bound before a pixel is read, and no bytes
// make the reader fall over.
func FuzzDecode(f *testing.F) {
	var asPNG, asJPEG bytes.Buffer
	if err := png.Encode(&asPNG, ramp(6, 5)); err != nil {
		f.Fatal(err)
	}
	if err := jpeg.Encode(&asJPEG, ramp(6, 5), nil); err != nil {
		f.Fatal(err)
	}
	asWebP, err := base64.StdEncoding.DecodeString(webpPixel)
	if err != nil {
		f.Fatal(err)
	}
	for _, data := range [][]byte{asPNG.Bytes(), asJPEG.Bytes(), asWebP, []byte("\xff\xd8\xff")} {
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		kind, picture, err := decode(data)
		if err != nil {
			return
		}
		if b := picture.Bounds(); photo.CheckSize(b.Dx(), b.Dy()) != nil || kind == "" {
			t.Errorf("%s of %v was read", kind, b)
		}
	})
}

// BenchmarkCopiesOf24Megapixels is a photograph of a good camera, from its bytes to both of
// its copies.
func BenchmarkCopiesOf24Megapixels(b *testing.B) {
	chance := rand.New(rand.NewPCG(1, 2))
	picture := image.NewYCbCr(image.Rect(0, 0, 6000, 4000), image.YCbCrSubsampleRatio420)
	for i := range picture.Y {
		picture.Y[i] = uint8(i/97 + chance.IntN(12))
	}
	var file bytes.Buffer
	if err := jpeg.Encode(&file, picture, &jpeg.Options{Quality: 92}); err != nil {
		b.Fatal(err)
	}
	b.SetBytes(int64(file.Len()))
	for b.Loop() {
		_, in, err := decode(file.Bytes())
		if err != nil {
			b.Fatal(err)
		}
		if _, err := copiesOf(in, 6); err != nil {
			b.Fatal(err)
		}
	}
}
