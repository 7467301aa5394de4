package photographs

import (
	"bytes"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/photo"
)

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

var _ = photo.JPEG
