package mesh

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// transform is an affine map in the order 3MF writes it: three rows that the
// coordinates multiply, and a row that is added.
type transform [12]float64

var unmoved = transform{1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0}

// parseTransform reads twelve numbers; no text is no change.
func parseTransform(text string) (transform, error) {
	if text == "" {
		return unmoved, nil
	}
	words := strings.Fields(text)
	if len(words) != 12 {
		return unmoved, fmt.Errorf("a transform has %d numbers; it needs twelve", len(words))
	}
	var out transform
	for i, w := range words {
		v, err := strconv.ParseFloat(w, 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			return unmoved, fmt.Errorf("%.20q in a transform is no number", w)
		}
		out[i] = v
	}
	return out, nil
}

func (m transform) apply(p [3]float64) (out [3]float64) {
	for axis := range 3 {
		out[axis] = p[0]*m[axis] + p[1]*m[3+axis] + p[2]*m[6+axis] + m[9+axis]
	}
	return out
}

// then is this map followed by another.
func (m transform) then(next transform) (out transform) {
	for row := range 4 {
		for column := range 3 {
			for k := range 3 {
				out[3*row+column] += m[3*row+k] * next[3*k+column]
			}
		}
	}
	for column := range 3 {
		out[9+column] += next[9+column]
	}
	return out
}

// mirrors reports a map that turns bodies inside out.
func (m transform) mirrors() bool {
	return m[0]*(m[4]*m[8]-m[5]*m[7])-m[1]*(m[3]*m[8]-m[5]*m[6])+m[2]*(m[3]*m[7]-m[4]*m[6]) < 0
}

// Pose is how a body stands: scaled, turned about the upright axis, then moved.
type Pose struct {
	XMM, YMM, ZMM float64
	TurnDeg       float64
	Scale         float64 // 1 is full size
}

func (p Pose) transform() transform {
	sin, cos := math.Sincos(p.TurnDeg * math.Pi / 180)
	k := p.Scale
	return transform{k * cos, k * sin, 0, -k * sin, k * cos, 0, 0, 0, k, p.XMM, p.YMM, p.ZMM}
}

// Placed is a copy of triangles in a pose.
func Placed(triangles []Triangle, p Pose) []Triangle {
	at := p.transform()
	out := make([]Triangle, len(triangles))
	for i := range triangles {
		for corner := range 3 {
			v := &triangles[i][corner]
			q := at.apply([3]float64{float64(v[0]), float64(v[1]), float64(v[2])})
			out[i][corner] = [3]float32{float32(q[0]), float32(q[1]), float32(q[2])}
		}
	}
	return out
}
