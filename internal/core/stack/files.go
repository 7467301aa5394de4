package stack

import (
	"archive/zip"
	"cmp"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
)

// Bounds of what is read.
const (
	// MostLayers is the most layers of a stack.
	MostLayers = 20_000
	// mostEntries is the most files of a container, layers and others.
	mostEntries = 25_000
	// mostPixels is the most pixels of one layer.
	mostPixels = 160_000_000
	// mostDecoded is the most bytes that one decoded layer takes, and mostHeld those of all that
	// are decoded at the same time.
	mostDecoded, mostHeld = 200 << 20, 360 << 20
	// mostPacked is the most bytes of a layer's PNG file.
	mostPacked = 256 << 20
	// mostAllPixels bounds the pixels of all layers together.
	mostAllPixels = 600_000_000_000
	// mostNote is the most bytes of a file of settings.
	mostNote = 1 << 20
)

// file is a layer's picture in the container with its number.
type file struct {
	number int
	entry  *zip.File
}

// Text is a file of settings as it stands in the container.
type Text struct {
	Name string
	Body []byte
}

// opened is a container with its layers in order, before their pixels are read.
type opened struct {
	layers  []file
	width   int
	height  int
	decoded int64 // bytes of one decoded layer
	missing []int
	others  []string
	texts   []Text
}

// open looks into a container: which pictures are layers, in which order, and what else there is.
func open(r io.ReaderAt, size int64) (*opened, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return nil, quantity.Errorf("file", "is no container that is read here: send a zip file with one PNG picture for each layer (%v)", err)
	}
	if len(z.File) > mostEntries {
		return nil, quantity.Errorf("file", "holds %d files; at most %d are read", len(z.File), mostEntries)
	}
	out := &opened{}
	groups := map[string][]file{}
	for _, f := range z.File {
		if err := out.sort(f, groups); err != nil {
			return nil, err
		}
	}
	if err := out.choose(groups); err != nil {
		return nil, err
	}
	return out, out.measure()
}

// sort puts a file where it belongs: a numbered picture with those whose name differs only in the
// number, a text of settings, or another.
func (o *opened) sort(f *zip.File, groups map[string][]file) error {
	if f.FileInfo().IsDir() {
		return nil
	}
	switch strings.ToLower(path.Ext(f.Name)) {
	case ".png":
		if stem, number, ok := numbered(f.Name); ok {
			groups[stem] = append(groups[stem], file{number, f})
			return nil
		}
	case ".json", ".txt", ".ini", ".cfg", ".csv":
		if f.UncompressedSize64 > mostNote {
			break
		}
		body, err := whole(f, mostNote)
		if err != nil {
			return quantity.Errorf("file", "holds %s, which could not be read: %v", f.Name, err)
		}
		o.texts = append(o.texts, Text{f.Name, body})
		return nil
	}
	o.others = append(o.others, f.Name)
	return nil
}

// numbered is a picture's name without its last number, and that number.
func numbered(name string) (stem string, number int, ok bool) {
	base := strings.TrimSuffix(name, path.Ext(name))
	end := strings.LastIndexFunc(base, func(r rune) bool { return r >= '0' && r <= '9' }) + 1
	start := end
	for start > 0 && base[start-1] >= '0' && base[start-1] <= '9' {
		start--
	}
	if start == end || end-start > 9 || strings.Contains(base[end:], "/") {
		return "", 0, false
	}
	number, err := strconv.Atoi(base[start:end])
	return base[:start] + "#" + base[end:], number, err == nil
}

// choose takes the largest group of numbered pictures for the layers; the rest are others.
func (o *opened) choose(groups map[string][]file) error {
	stems := make([]string, 0, len(groups))
	for stem := range groups {
		stems = append(stems, stem)
	}
	slices.SortFunc(stems, func(a, b string) int {
		return cmp.Or(len(groups[b])-len(groups[a]), strings.Compare(a, b))
	})
	if len(stems) == 0 {
		return quantity.Errorf("file", "holds no numbered PNG pictures, so there are no layers; send one picture for each layer with its number in the name")
	}
	for _, stem := range stems[1:] {
		for _, f := range groups[stem] {
			o.others = append(o.others, f.entry.Name)
		}
	}
	slices.Sort(o.others)
	o.layers = groups[stems[0]]
	if len(o.layers) > MostLayers {
		return quantity.Errorf("file", "holds %d layers; at most %d are read", len(o.layers), MostLayers)
	}
	slices.SortStableFunc(o.layers, func(a, b file) int { return a.number - b.number })
	for i, f := range o.layers[1:] {
		was := o.layers[i].number
		if f.number == was {
			return quantity.Errorf("file", "holds layer %d twice (%s and %s); leave one out", was, o.layers[i].entry.Name, f.entry.Name)
		}
		for n := was + 1; n < f.number && len(o.missing) <= MostLayers; n++ {
			o.missing = append(o.missing, n)
		}
	}
	return nil
}

// measure takes the size of the layers from the first, and refuses what is beyond the bounds.
func (o *opened) measure() error {
	first := o.layers[0].entry
	config, err := config(first)
	if err != nil {
		return quantity.Errorf("file", "holds %v", decodeError(first.Name, err))
	}
	o.width, o.height = config.Width, config.Height
	px := int64(config.Width) * int64(config.Height)
	if px > mostPixels || px*int64(len(o.layers)) > mostAllPixels {
		return quantity.Errorf("file", "has %d layers of %d × %d pixels; at most %d megapixels in a layer and %d gigapixels in all are read", len(o.layers), config.Width, config.Height, mostPixels/1_000_000, int64(mostAllPixels)/1_000_000_000)
	}
	if o.decoded = px * bytesOf(config); o.decoded > mostDecoded {
		return quantity.Errorf("file", "has layers that take %d MB each when read; at most %d are taken. Save them as grey pictures", o.decoded>>20, int64(mostDecoded)>>20)
	}
	return nil
}

// bytesOf is how many bytes a decoded pixel takes.
func bytesOf(c image.Config) int64 {
	if _, indexed := c.ColorModel.(color.Palette); indexed {
		return 1
	}
	switch c.ColorModel {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.RGBAModel, color.NRGBAModel:
		return 4
	}
	return 8
}

func config(f *zip.File) (image.Config, error) {
	r, err := f.Open()
	if err != nil {
		return image.Config{}, err
	}
	defer r.Close()
	return png.DecodeConfig(r)
}

// decode reads one layer; it has the size of the first, or is refused.
func (o *opened) decode(f file) (image.Image, error) {
	if f.entry.UncompressedSize64 > mostPacked {
		return nil, quantity.Errorf("file", "holds %s of %d MB; at most %d are read for a layer", f.entry.Name, f.entry.UncompressedSize64>>20, int64(mostPacked)>>20)
	}
	c, err := config(f.entry)
	if err != nil {
		return nil, quantity.Errorf("file", "holds %v", decodeError(f.entry.Name, err))
	}
	if c.Width != o.width || c.Height != o.height {
		return nil, quantity.Errorf("file", "holds %s of %d × %d pixels among layers of %d × %d; they are one picture of the panel each", f.entry.Name, c.Width, c.Height, o.width, o.height)
	}
	if int64(c.Width)*int64(c.Height)*bytesOf(c) > mostDecoded {
		return nil, quantity.Errorf("file", "holds %s, which is too large when read; save it as a grey picture", f.entry.Name)
	}
	r, err := f.entry.Open()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", f.entry.Name, err)
	}
	defer r.Close()
	m, err := png.Decode(io.LimitReader(r, mostPacked))
	if err != nil {
		return nil, quantity.Errorf("file", "holds %v", decodeError(f.entry.Name, err))
	}
	return m, nil
}

func whole(f *zip.File, most int64) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	return io.ReadAll(io.LimitReader(r, most))
}
