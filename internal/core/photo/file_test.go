package photo

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"
)

// tiff is a directory with a make and an orientation, in either order of bytes.
func tiff(order binary.AppendByteOrder, orientation uint16) []byte {
	head := []byte("II*\x00")
	if order == binary.AppendByteOrder(binary.BigEndian) {
		head = []byte("MM\x00*")
	}
	out := order.AppendUint32(head, 8)
	out = order.AppendUint16(out, 2)
	for _, e := range []struct{ tag, value uint16 }{{0x010f, 7}, {0x0112, orientation}} {
		out = order.AppendUint16(out, e.tag)
		out = order.AppendUint16(out, 3)
		out = order.AppendUint32(out, 1)
		out = order.AppendUint16(out, e.value)
		out = order.AppendUint16(out, 0)
	}
	return order.AppendUint32(out, 0)
}

func jpegOf(t testing.TB, exif []byte) []byte {
	t.Helper()
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, image.NewGray(image.Rect(0, 0, 4, 3)), nil); err != nil {
		t.Fatal(err)
	}
	if exif == nil {
		return plain.Bytes()
	}
	block := append([]byte("Exif\x00\x00"), exif...)
	out := append([]byte("\xff\xd8\xff\xe1"), byte((len(block)+2)>>8), byte(len(block)+2))
	return append(append(out, block...), plain.Bytes()[2:]...)
}

func pngOf(t testing.TB, exif []byte) []byte {
	t.Helper()
	var plain bytes.Buffer
	if err := png.Encode(&plain, image.NewGray(image.Rect(0, 0, 4, 3))); err != nil {
		t.Fatal(err)
	}
	const header = 8 + 25 // the signature and IHDR
	body := append([]byte("eXIf"), exif...)
	chunk := binary.BigEndian.AppendUint32(nil, uint32(len(exif)))
	chunk = binary.BigEndian.AppendUint32(append(chunk, body...), crc32.ChecksumIEEE(body))
	return append(append(bytes.Clone(plain.Bytes()[:header]), chunk...), plain.Bytes()[header:]...)
}

// webpOf is a container with the chunks that a camera writes; its picture is empty.
func webpOf(exif []byte) []byte {
	body := append([]byte("WEBPVP8X\x03\x00\x00\x00abc\x00"), append([]byte("EXIF"), binary.LittleEndian.AppendUint32(nil, uint32(len(exif)))...)...)
	body = append(body, exif...)
	return append(binary.LittleEndian.AppendUint32([]byte("RIFF"), uint32(len(body))), body...)
}

func TestOrientationOfEachKindOfFile(t *testing.T) {
	for want := 1; want <= 8; want++ {
		for _, order := range []binary.AppendByteOrder{binary.BigEndian, binary.LittleEndian} {
			tags := tiff(order, uint16(want))
			for name, data := range map[string][]byte{JPEG: jpegOf(t, tags), PNG: pngOf(t, tags), WebP: webpOf(tags)} {
				if kind, err := KindOf(data); err != nil || kind != name {
					t.Errorf("%s was taken for %q: %v", name, kind, err)
				}
				if got := Orientation(data); got != want {
					t.Errorf("%s: orientation %d, want %d", name, got, want)
				}
			}
		}
	}
	for _, data := range [][]byte{jpegOf(t, nil), jpegOf(t, tiff(binary.BigEndian, 9)), pngOf(t, nil), nil, []byte("\xff\xd8\xff\xe1\x00")} {
		if got := Orientation(data); got != Upright {
			t.Errorf("%.20q: orientation %d", data, got)
		}
	}
}

func TestWhatIsNoPictureIsRefusedInASentence(t *testing.T) {
	for begins, says := range map[string]string{
		"MZ\x90\x00 this program": "is a program", "\x7fELF\x02\x01": "is a program", "\x00\x00\x00\x18ftypheic\x00\x00": "most compatible format",
		"%PDF-1.7": "choose a JPEG", "": "choose a JPEG", "RIFF\x00\x00\x00\x00WAVEfmt ": "choose a JPEG",
	} {
		if kind, err := KindOf([]byte(begins)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %q, %v", begins, kind, err)
		}
	}
	for size, fine := range map[[2]int]bool{{6000, 4000}: true, {8000, 8000}: true, {8001, 8000}: false, {1 << 30, 1 << 30}: false, {0, 5}: false, {5, -1}: false} {
		if err := CheckSize(size[0], size[1]); (err == nil) != fine {
			t.Errorf("%v: %v", size, err)
		}
	}
}

// Eight pictures of the same thing, held in eight ways, are the same once they are turned.
func TestTurningMakesEveryOrientationUpright(t *testing.T) {
	upright := image.NewRGBA(image.Rect(0, 0, 3, 2))
	for i := range 6 {
		upright.SetRGBA(i%3, i/3, color.RGBA{uint8(10 * (i + 1)), 0, 0, 255})
	}
	// held are the columns and rows of the sensor for each orientation: its first row is the
	// picture's top (1, 2), bottom (3, 4), left (5, 8) or right side (6, 7).
	held := map[int][][]uint8{
		1: {{10, 20, 30}, {40, 50, 60}}, 2: {{30, 20, 10}, {60, 50, 40}}, 3: {{60, 50, 40}, {30, 20, 10}}, 4: {{40, 50, 60}, {10, 20, 30}},
		5: {{10, 40}, {20, 50}, {30, 60}}, 6: {{30, 60}, {20, 50}, {10, 40}}, 7: {{60, 30}, {50, 20}, {40, 10}}, 8: {{40, 10}, {50, 20}, {60, 30}},
	}
	for orientation, rows := range held {
		sensor := image.NewRGBA(image.Rect(0, 0, len(rows[0]), len(rows)))
		for y, row := range rows {
			for x, v := range row {
				sensor.SetRGBA(x, y, color.RGBA{v, 0, 0, 255})
			}
		}
		if got := Turn(sensor, orientation); !bytes.Equal(got.Pix, upright.Pix) {
			t.Errorf("orientation %d: %v", orientation, got.Pix)
		}
	}
}

func FuzzOrientation(f *testing.F) {
	for _, order := range []binary.AppendByteOrder{binary.BigEndian, binary.LittleEndian} {
		tags := tiff(order, 6)
		for _, data := range [][]byte{jpegOf(f, tags), pngOf(f, tags), webpOf(tags), jpegOf(f, nil)} {
			f.Add(data)
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		if got := Orientation(data); got < 1 || got > 8 {
			t.Errorf("orientation %d", got)
		}
	})
}
