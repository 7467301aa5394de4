package mesh

import "testing"

func BenchmarkRead3MF(b *testing.B) {
	data, err := Write3MF([]Object{{"ball", sphere(40, 100, 500)}}, []Item{{0, Pose{Scale: 1}}})
	if err != nil {
		b.Fatal(err)
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := Read3MF(data); err != nil {
			b.Fatal(err)
		}
	}
}
