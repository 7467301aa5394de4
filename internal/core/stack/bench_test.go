package stack

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"
	"os"
	"testing"
)

// figures draws a layer of 3,840 × 2,160 grey pixels with 24 outlines in it, askew by turn.
func figures(turn float64) []byte {
	m := image.NewGray(image.Rect(0, 0, 3840, 2160))
	for y := range 2160 {
		for x := range 3840 {
			dx, dy := float64(x%640)-320, float64(y%540)-270
			at := math.Atan2(dy, dx) + turn
			edge := 120 + 20*math.Sin(9*at) + 6*math.Sin(41*at+float64(x/640))
			m.SetGray(x, y, color.Gray{uint8(max(0, min(255, (edge-math.Hypot(dx, dy))*255)))})
		}
	}
	var out bytes.Buffer
	_ = png.Encode(&out, m)
	return out.Bytes()
}

// stackOf packs layers of figures, which come again every ten.
func stackOf(b *testing.B, layers int) []byte {
	b.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	drawn := [10][]byte{}
	for i := range drawn {
		drawn[i] = figures(float64(i) / 50)
	}
	for i := range layers {
		w, err := z.CreateHeader(&zip.FileHeader{Name: fmt.Sprintf("%05d.png", i+1), Method: zip.Store})
		if err == nil {
			_, err = w.Write(drawn[i%10])
		}
		if err != nil {
			b.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		b.Fatal(err)
	}
	return out.Bytes()
}

// BenchmarkRead reads layers of 8.3 megapixels: 2,000 of them with OJIME_WHOLE set, else 40.
func BenchmarkRead(b *testing.B) {
	layers := 40
	if os.Getenv("OJIME_WHOLE") != "" {
		layers = 2000
	}
	file := stackOf(b, layers)
	b.ReportAllocs()
	for b.Loop() {
		s, err := Read(bytes.NewReader(file), int64(len(file)), 2, onward)
		if err != nil || len(s.Layers) != layers {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N)/float64(layers), "ms/layer")
}
