package stack

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

// grey draws a layer from rows of signs: "#" lit, "+" 60 % grey, "-" 20 % grey, others dark.
func grey(rows ...string) *image.Gray {
	m := image.NewGray(image.Rect(0, 0, len(rows[0]), len(rows)))
	for y, row := range rows {
		for x, sign := range row {
			m.SetGray(x, y, color.Gray{map[rune]uint8{'#': 255, '+': 153, '-': 51}[sign]})
		}
	}
	return m
}

type entry struct {
	name string
	body any // image.Image, []byte or string
}

func packed(t testing.TB, entries ...entry) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, e := range entries {
		w, err := z.Create(e.name)
		if err != nil {
			t.Fatal(err)
		}
		switch body := e.body.(type) {
		case image.Image:
			err = png.Encode(w, body)
		case []byte:
			_, err = w.Write(body)
		case string:
			_, err = w.Write([]byte(body))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func onward(int, int) bool { return true }

func readStack(t testing.TB, file []byte) Stack {
	t.Helper()
	s, err := Read(bytes.NewReader(file), int64(len(file)), 3, onward)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func TestALayerIsCountedByItsPixels(t *testing.T) {
	s := readStack(t, packed(t, entry{"1.png", grey(
		"..........",
		".####+....",
		".####-....",
		".####.....",
		"........##",
	)}))
	l := s.Layers[0]
	if want := 14 + 0.6 + 0.2; math.Abs(l.LitPX-want) > 1e-9 {
		t.Errorf("lit %v px, want %v", l.LitPX, want)
	}
	// Lit from half of full light on: 4 × 3 and the grey one beside it, and the two at the edge.
	if l.GreyPX != 2 || l.Regions != 2 || l.Islands != 0 {
		t.Errorf("grey %d, regions %d, islands %d; want 2, 2, 0", l.GreyPX, l.Regions, l.Islands)
	}
	if l.AcrossSides != 2*5+2*2 || l.AlongSides != 2*3+2 {
		t.Errorf("sides %d across and %d along, want 14 and 8", l.AcrossSides, l.AlongSides)
	}
	if l.X0 != 1 || l.X1 != 10 || l.Y0 != 1 || l.Y1 != 5 {
		t.Errorf("extent %d–%d, %d–%d; want 1–10, 1–5", l.X0, l.X1, l.Y0, l.Y1)
	}
}

func TestAnIslandHasNothingUnderIt(t *testing.T) {
	s := readStack(t, packed(t,
		entry{"a/0002.png", grey("##....", "......", "....##", "....##")},
		entry{"a/0001.png", grey("##....", "......", "......", "......")},
		entry{"a/0003.png", grey("#.#...", ".#....", "......", "....##")},
	))
	got := []int{}
	for _, l := range s.Layers {
		got = append(got, l.Regions, l.Islands, int(l.IslandPX))
	}
	// Layer 3: the corner-joined region is held by one pixel over ## of layer 2.
	if want := []int{1, 0, 0, 2, 1, 4, 2, 0, 0}; !slices.Equal(got, want) {
		t.Errorf("regions, islands, largest by layer: %v, want %v", got, want)
	}
}

// flood counts regions and islands by the plain way: every pixel, from the ones beside it.
func flood(now, before *image.Gray) (regions, islands int) {
	b := now.Bounds()
	seen := map[image.Point]bool{}
	lit := func(m *image.Gray, p image.Point) bool { return p.In(b) && m.GrayAt(p.X, p.Y).Y >= litFrom }
	for y := range b.Dy() {
		for x := range b.Dx() {
			start := image.Pt(x, y)
			if !lit(now, start) || seen[start] {
				continue
			}
			regions++
			held := false
			for todo := []image.Point{start}; len(todo) > 0; {
				p := todo[0]
				todo = todo[1:]
				if seen[p] || !lit(now, p) {
					continue
				}
				seen[p] = true
				held = held || lit(before, p)
				for dy := -1; dy <= 1; dy++ {
					for dx := -1; dx <= 1; dx++ {
						todo = append(todo, p.Add(image.Pt(dx, dy)))
					}
				}
			}
			if !held {
				islands++
			}
		}
	}
	return regions, islands
}

func TestRegionsAreThoseOfAFlood(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	for round := range 200 {
		draw := func() *image.Gray {
			m := image.NewGray(image.Rect(0, 0, 1+r.IntN(24), 12))
			for i := range m.Pix {
				if m.Pix[i] = uint8(r.IntN(256)); r.IntN(3) == 0 {
					m.Pix[i] = 255 * uint8(r.IntN(2))
				}
			}
			return m
		}
		below := draw()
		now := image.NewGray(below.Rect)
		for i := range now.Pix {
			now.Pix[i] = uint8(r.IntN(256))
		}
		s := readStack(t, packed(t, entry{"1.png", below}, entry{"2.png", now}))
		regions, islands := flood(now, below)
		l := s.Layers[1]
		var sum float64
		var sides int64
		for y := range 12 {
			for x := range now.Rect.Dx() {
				sum += float64(now.GrayAt(x, y).Y) / 255
				for _, d := range []image.Point{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
					if now.GrayAt(x, y).Y >= litFrom && now.GrayAt(x+d.X, y+d.Y).Y < litFrom {
						sides++
					}
				}
			}
		}
		if l.Regions != regions || l.Islands != islands || math.Abs(l.LitPX-sum) > 1e-6 || l.AcrossSides+l.AlongSides != sides {
			t.Fatalf("round %d: %d regions, %d islands, %v px, %d sides; by flood %d, %d, %v, %d", round, l.Regions, l.Islands, l.LitPX, l.AcrossSides+l.AlongSides, regions, islands, sum, sides)
		}
	}
}

func TestEveryKindOfPictureIsReadAsGrey(t *testing.T) {
	base := grey("##..", "#+..")
	want := readStack(t, packed(t, entry{"1.png", base})).Layers[0]
	kinds := map[string]image.Image{}
	rgba, nrgba, deep := image.NewRGBA(base.Rect), image.NewNRGBA(base.Rect), image.NewGray16(base.Rect)
	palette := image.NewPaletted(base.Rect, color.Palette{color.Gray{0}, color.Gray{153}, color.Gray{255}})
	for y := range 2 {
		for x := range 4 {
			c := base.GrayAt(x, y)
			// One channel is a pixel of its own on some panels.
			rgba.Set(x, y, color.RGBA{0, c.Y, 0, 255})
			nrgba.Set(x, y, color.NRGBA{c.Y, c.Y, c.Y, 255})
			deep.Set(x, y, c)
			palette.Set(x, y, c)
		}
	}
	kinds["rgba"], kinds["nrgba"], kinds["grey of 16 bits"], kinds["palette"] = rgba, nrgba, deep, palette
	for kind, m := range kinds {
		if got := readStack(t, packed(t, entry{"1.png", m})).Layers[0]; got != want {
			t.Errorf("%s: %+v, want %+v", kind, got, want)
		}
	}
}

func TestLayersAreToldFromOtherFiles(t *testing.T) {
	m := grey("#.", "..")
	s := readStack(t, packed(t,
		entry{"layers/10.png", m}, entry{"layers/9.png", m}, entry{"layers/12.png", m},
		entry{"look_1.png", grey("###")}, entry{"cover.png", grey("#")}, entry{"readme.md", "x"}, entry{"settings.txt", "exposure: 2.4 s"},
	))
	if len(s.Layers) != 3 || s.First != 9 || !slices.Equal(s.Missing, []int{11}) {
		t.Errorf("layers %d from %d, missing %v; want 3 from 9, missing 11", len(s.Layers), s.First, s.Missing)
	}
	if !slices.Equal(s.Others, []string{"cover.png", "look_1.png", "readme.md"}) || len(s.Texts) != 1 {
		t.Errorf("others %v, texts %d", s.Others, len(s.Texts))
	}
}

func TestWhatIsNoStackIsRefusedInASentence(t *testing.T) {
	m := grey("#.", "..")
	good := packed(t, entry{"1.png", m}, entry{"2.png", m})
	for name, c := range map[string]struct {
		file []byte
		says string
	}{
		"no zip":          {[]byte("LAYERS of another kind"), "is no container that is read here: send a zip file"},
		"no layers":       {packed(t, entry{"a.png", m}, entry{"b.txt", "x"}), "holds no numbered PNG pictures"},
		"one twice":       {packed(t, entry{"l1.png", m}, entry{"l01.png", m}), "holds layer 1 twice"},
		"other size":      {packed(t, entry{"1.png", m}, entry{"2.png", grey("###")}), "of 3 × 1 pixels among layers of 2 × 2"},
		"no picture":      {packed(t, entry{"1.png", m}, entry{"2.png", "not a picture"}), "2.png could not be read as a PNG picture"},
		"first no good":   {packed(t, entry{"1.png", "no"}), "1.png could not be read"},
		"cut off":         {good[:len(good)/2], "is no container"},
		"a broken layer":  {packed(t, entry{"1.png", m}, entry{"2.png", broken(t, m)}), "2.png could not be read"},
		"one huge number": {packed(t, entry{"12345678901.png", m}), "holds no numbered"},
	} {
		_, err := Read(bytes.NewReader(c.file), int64(len(c.file)), 2, onward)
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v; want %q", name, err, c.says)
		}
	}
	huge := packed(t, entry{"1.png", huge(40_000, 40_000)})
	if _, err := Read(bytes.NewReader(huge), int64(len(huge)), 2, onward); err == nil || !strings.Contains(err.Error(), "160 megapixels in a layer") {
		t.Errorf("40,000 × 40,000 pixels: %v", err)
	}
	speckled := image.NewGray(image.Rect(0, 0, 3000, 3000))
	for i := 0; i < len(speckled.Pix); i += 2 {
		speckled.Pix[i] = 255
	}
	file := packed(t, entry{"1.png", speckled})
	if _, err := Read(bytes.NewReader(file), int64(len(file)), 2, onward); err == nil || !strings.Contains(err.Error(), "separate stretches") {
		t.Errorf("4.5 million specks: %v", err)
	}
}

// broken is a picture whose pixels end too early.
func broken(t *testing.T, m image.Image) []byte {
	var out bytes.Buffer
	if err := png.Encode(&out, m); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()[:out.Len()-20]
}

// huge is the beginning of a picture that says it is of that size.
func huge(w, h int) []byte {
	var out bytes.Buffer
	_ = png.Encode(&out, image.NewGray(image.Rect(0, 0, 1, 1)))
	b := out.Bytes()
	b[16], b[17], b[18], b[19] = byte(w>>24), byte(w>>16), byte(w>>8), byte(w)
	b[20], b[21], b[22], b[23] = byte(h>>24), byte(h>>16), byte(h>>8), byte(h)
	crc := crcOf(b[12:29])
	b[29], b[30], b[31], b[32] = byte(crc>>24), byte(crc>>16), byte(crc>>8), byte(crc)
	return b
}

func crcOf(b []byte) uint32 {
	crc := ^uint32(0)
	for _, v := range b {
		crc ^= uint32(v)
		for range 8 {
			crc = crc>>1 ^ 0xedb88320*(crc&1)
		}
	}
	return ^crc
}

func TestReadingIsToldAndStopped(t *testing.T) {
	m := grey("#.", "..")
	entries := []entry{}
	for i := range 40 {
		entries = append(entries, entry{fmt.Sprintf("%d.png", i), m})
	}
	file := packed(t, entries...)
	var told []int
	s, err := Read(bytes.NewReader(file), int64(len(file)), 4, func(read, of int) bool {
		told = append(told, read)
		return of == 40
	})
	if err != nil || len(s.Layers) != 40 || len(told) != 41 || !slices.IsSorted(told) {
		t.Errorf("told %v, %v", told, err)
	}
	if _, err := Read(bytes.NewReader(file), int64(len(file)), 4, func(read, _ int) bool { return read < 7 }); err != ErrStopped {
		t.Errorf("stopped after seven: %v", err)
	}
}

func FuzzRead(f *testing.F) {
	m := grey("##.", ".+.")
	f.Add(packed(f, entry{"1.png", m}, entry{"2.png", m}, entry{"s.json", `{"exposure": 2}`}))
	f.Add(packed(f, entry{"x/1.png", grey("#")}, entry{"x/3.png", grey(".")}))
	f.Add([]byte("PK\x03\x04"))
	f.Fuzz(func(t *testing.T, file []byte) {
		s, err := Read(bytes.NewReader(file), int64(len(file)), 2, onward)
		if err != nil {
			return
		}
		for _, l := range s.Layers {
			if l.LitPX < 0 || l.LitPX > float64(s.WidthPX*s.HeightPX) || l.Islands > l.Regions || l.X1 > s.WidthPX || l.Y1 > s.HeightPX {
				t.Fatalf("a layer of %d × %d says %+v", s.WidthPX, s.HeightPX, l)
			}
		}
	})
}
