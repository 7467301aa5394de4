package mesh

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"
)

// tangled is a small 3MF with many bodies on one spot, each turned a little, so
// that every edge crosses nearly every other.
func tangled(t *testing.T, bodies int) *Mesh {
	t.Helper()
	var components strings.Builder
	for i := range bodies {
		sin, cos := math.Sincos(float64(i) * math.Pi / float64(2*bodies))
		fmt.Fprintf(&components, `<component objectid="1" transform="%.6f %.6f 0 %.6f %.6f 0 0 0 1 0 0 0"/>`, cos, sin, -sin, cos)
	}
	body := `<object id="1"><mesh><vertices><vertex x="-9" y="-9" z="0"/><vertex x="9" y="-9" z="0"/><vertex x="0" y="9" z="0"/><vertex x="0" y="0" z="9"/></vertices>
	<triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="2" v2="0" v3="3"/></triangles></mesh></object>`
	m, err := Read(model3MF(t, "millimeter", body+`<object id="2"><components>`+components.String()+`</components></object>`, `<item objectid="2"/>`))
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestATangledFileIsGivenUp(t *testing.T) {
	m := tangled(t, 3000)
	s, err := NewSlicer(m.Triangles, 50)
	if err != nil {
		t.Fatal(err)
	}
	for name, left := range map[string]int64{"as a whole": 3 * stepsBetween, "in one layer": mostStepsAFile} {
		e := newEffort(nil)
		e.left.Store(left)
		sweep := sweeper{effort: e}
		err := s.chunk(&cutter{}, 0, 1, func(_ int, segments []segment) error {
			sweep.measure(segments)
			return sweep.err
		})
		if !errors.Is(err, ErrTangled) || !strings.Contains(err.Error(), name) {
			t.Errorf("%s: error %v", name, err)
		}
	}
}

// Who leaves in the middle of a heavy layer does not leave it behind at work.
func TestASweepStopsInTheMiddleOfALayer(t *testing.T) {
	m := tangled(t, 3000)
	for name, slice := range map[string]func(Progress) error{
		"layers": func(p Progress) error { _, err := Profile(m, 8000, p); return err },
		"judge":  func(p Progress) error { _, err := Judge(m, p); return err },
		"hollow": func(p Progress) error { _, err := Hollow(m, 1, p); return err },
	} {
		asked := 0
		err := slice(func(float64) bool { asked++; return asked < 3 })
		if !errors.Is(err, ErrStopped) || asked > 10 {
			t.Errorf("%s: error %v after %d questions, want ErrStopped soon", name, err, asked)
		}
	}
}

func TestAPanicOfAWorkerIsAnError(t *testing.T) {
	s, err := NewSlicer(cuboid(0, 0, 0, 10, 10, 10), 1000)
	if err != nil {
		t.Fatal(err)
	}
	err = s.share(&turns{count: s.count}, func() each { return func(int, []segment) error { panic("broken") } })
	if err == nil || !strings.Contains(err.Error(), "broken") {
		t.Errorf("error %v", err)
	}
}
