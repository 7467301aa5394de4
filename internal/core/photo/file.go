package photo

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
)

// Kinds of picture files, told by how they begin and never by their names.
const (
	JPEG = "jpeg"
	PNG  = "png"
	WebP = "webp"
)

// MostBytes is how large a photograph's file may be: 30 MiB.
const MostBytes = 30 << 20

// MostPX is how many pixels a photograph may have: what a file of a few bytes claims would
// otherwise fill the memory.
const MostPX = 64_000_000

// KindOf tells what a file is by how it begins. What is no picture that can be read is an
// error that says what to do.
func KindOf(data []byte) (string, error) {
	switch {
	case bytes.HasPrefix(data, []byte("\xff\xd8\xff")):
		return JPEG, nil
	case bytes.HasPrefix(data, pngSignature):
		return PNG, nil
	case len(data) >= 12 && string(data[:4]) == "RIFF" && string(data[8:12]) == "WEBP":
		return WebP, nil
	case len(data) >= 12 && string(data[4:8]) == "ftyp" && heifBrands[string(data[8:12])]:
		return "", errors.New("is a HEIC picture, which few programs can read; set the phone's camera to its most compatible format (JPEG), or send the picture as JPEG")
	case bytes.HasPrefix(data, []byte("MZ")) || bytes.HasPrefix(data, []byte("\x7fELF")):
		return "", errors.New("is a program and no picture, whatever its name says; choose a JPEG, PNG or WebP file")
	}
	return "", errors.New("is no picture that can be read, whatever its name says; choose a JPEG, PNG or WebP file")
}

var pngSignature = []byte("\x89PNG\r\n\x1a\n")

// heifBrands are those of files that phones write instead of JPEG (ISO/IEC 23008-12, AVIF).
var heifBrands = map[string]bool{"heic": true, "heix": true, "hevc": true, "heim": true, "heis": true, "mif1": true, "msf1": true, "avif": true, "avis": true}

// CheckSize reports a picture of no or too many pixels.
func CheckSize(width, height int) error {
	switch {
	case width < 1 || height < 1:
		return fmt.Errorf("says that it is %d by %d pixels; it is damaged", width, height)
	case width > MostPX/height:
		return fmt.Errorf("is %d by %d pixels; pictures of up to %d million are read", width, height, MostPX/1_000_000)
	}
	return nil
}

// Upright is the orientation of a picture that need not be turned (Exif 2.32, tag 0x0112).
const Upright = 1

// Orientation reads how a camera was held, 1 to 8 as in Exif 2.32; Upright where the file
// says nothing of it, or nothing that can be.
func Orientation(data []byte) int {
	kind, err := KindOf(data)
	if err != nil {
		return Upright
	}
	var tags []byte
	switch kind {
	case JPEG:
		tags = exifOfJPEG(data)
	case PNG:
		tags = chunk(data[len(pngSignature):], "eXIf", binary.BigEndian, lengthFirst)
	case WebP:
		tags = chunk(data[12:], "EXIF", binary.LittleEndian, nameFirst)
	}
	return orientationIn(bytes.TrimPrefix(tags, []byte("Exif\x00\x00")))
}

// exifOfJPEG walks the segments before the picture itself (ITU-T T.81, annex B).
func exifOfJPEG(data []byte) []byte {
	const head = 4 // marker and length
	for at := 2; at+head <= len(data) && data[at] == 0xff; {
		marker := data[at+1]
		size := int(binary.BigEndian.Uint16(data[at+2:]))
		end := at + 2 + size
		switch {
		case marker == 0xda || size < 2 || end > len(data):
			return nil
		case marker == 0xe1 && bytes.HasPrefix(data[at+head:end], []byte("Exif\x00\x00")):
			return data[at+head : end]
		}
		at = end
	}
	return nil
}

// Chunks begin with their length and their name, in the order of their format.
const (
	lengthFirst = iota // PNG; a sum of 4 bytes follows
	nameFirst          // RIFF; odd lengths are padded
)

// chunk finds a chunk of a PNG or RIFF file by its name; nil where there is none.
func chunk(data []byte, name string, order binary.ByteOrder, layout int) []byte {
	const head, sum = 8, 4
	for len(data) >= head {
		length, called, after := order.Uint32(data), string(data[4:head]), uint32(sum)
		if layout == nameFirst {
			length, called = order.Uint32(data[4:]), string(data[:4])
			after = length % 2
		}
		if uint64(length) > uint64(len(data)-head) {
			return nil
		}
		if called == name {
			return data[head : head+length]
		}
		next := uint64(head) + uint64(length) + uint64(after)
		if next > uint64(len(data)) {
			return nil
		}
		data = data[next:]
	}
	return nil
}

// orientationIn reads the tag from the first directory of a TIFF block (TIFF 6.0).
func orientationIn(tiff []byte) int {
	if len(tiff) < 8 {
		return Upright
	}
	var order binary.ByteOrder = binary.LittleEndian
	switch string(tiff[:4]) {
	case "II*\x00":
	case "MM\x00*":
		order = binary.BigEndian
	default:
		return Upright
	}
	at := uint64(order.Uint32(tiff[4:]))
	if at+2 > uint64(len(tiff)) {
		return Upright
	}
	entries := uint64(order.Uint16(tiff[at:]))
	for i := range entries {
		const size, short = 12, 3
		e := at + 2 + i*size
		if e+size > uint64(len(tiff)) {
			return Upright
		}
		if order.Uint16(tiff[e:]) == 0x0112 && order.Uint16(tiff[e+2:]) == short {
			if v := int(order.Uint16(tiff[e+8:])); v >= 1 && v <= 8 {
				return v
			}
			return Upright
		}
	}
	return Upright
}
