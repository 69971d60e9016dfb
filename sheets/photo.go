package sheets

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg" // and its decoder
	_ "image/png"

	"cinderpath/core/measure"

	"github.com/disintegration/imaging"
)

// Limits of a photograph.
const (
	LargestPhoto = 20 << 20 // bytes
	mostPixels   = 50_000_000
	mostUnpacked = 200 << 20 // bytes in memory, at once
	// mostPerByte is how many pixels a byte of a real file can hold: the packing of
	// a PNG reaches 1032 bytes to one, a JPEG less. A file that claims more is cut
	// short or made to take memory, and is refused before any is taken.
	mostPerByte = 1032 * 8
)

// Picture is a photograph as it is kept: upright, and without what a camera writes
// beside the picture (place, time, owner) wherever it had to be turned or carried such.
type Picture struct {
	Data   []byte
	Media  string // image/jpeg or image/png
	Width  int
	Height int
}

func photoFault(reason, remedy string) error {
	return &measure.Fault{Field: "photograph", Reason: reason, Remedy: remedy}
}

// unpackedPixel is how many bytes of memory a pixel takes at most while it is read, and
// turned where it has to be.
func unpackedPixel(media string, model color.Model, turned bool) int {
	n := 4
	switch {
	case media == "image/jpeg" && model != color.CMYKModel:
		n = 3 // its colour may be as fine as its light
	case model == color.NRGBA64Model, model == color.RGBA64Model:
		n = 8
	}
	if turned {
		n += 4
	}
	return n
}

// ReadPhoto checks a JPEG or PNG, decodes it wholly and turns it upright by its EXIF
// orientation.
func ReadPhoto(data []byte) (Picture, error) {
	if len(data) > LargestPhoto {
		return Picture{}, photoFault(fmt.Sprintf("larger than %d MB", LargestPhoto>>20), "save it smaller, or crop it")
	}
	p := Picture{Data: data}
	switch {
	case bytes.HasPrefix(data, []byte("\xff\xd8\xff")):
		p.Media = "image/jpeg"
	case bytes.HasPrefix(data, []byte("\x89PNG\r\n\x1a\n")):
		p.Media = "image/png"
	default:
		return Picture{}, photoFault("it is neither a JPEG nor a PNG", "save it as one of them")
	}
	head, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Picture{}, photoFault("its head cannot be read: "+err.Error(), "save it again")
	}
	switch pixels := int64(head.Width) * int64(head.Height); {
	case head.Width < 1 || head.Height < 1:
		return Picture{}, photoFault("it has no pixels", "save it again")
	case pixels > mostPixels:
		return Picture{}, photoFault(
			fmt.Sprintf("%d × %d are more than %d million pixels", head.Width, head.Height, mostPixels/1_000_000),
			"save it smaller",
		)
	case pixels > mostPerByte*int64(len(data)):
		return Picture{}, photoFault(
			fmt.Sprintf("%d bytes cannot hold %d × %d pixels", len(data), head.Width, head.Height),
			"copy it again, it was cut short",
		)
	}
	// A camera's notes lie in a JPEG's segments of this mark, which its packed pixels
	// never contain; whether they are in order does not matter, the decoder may turn by them.
	carries := bytes.Contains(data, []byte("\xff\xe1"))
	if p.Media == "image/png" {
		carries = bytes.Contains(data, []byte("eXIf"))
	}
	if most := mostUnpacked / unpackedPixel(p.Media, head.ColorModel, carries); head.Width*head.Height > most {
		return Picture{}, photoFault(
			fmt.Sprintf(
				"unpacked, %d × %d pixels of this kind take more than %d MB",
				head.Width,
				head.Height,
				mostUnpacked>>20,
			),
			fmt.Sprintf("save it with at most %d million pixels, or as a JPEG", most/1_000_000),
		)
	}
	img, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return Picture{}, photoFault("it cannot be read to its end: "+err.Error(), "save or copy it again")
	}
	p.Width, p.Height = img.Bounds().Dx(), img.Bounds().Dy()
	if !carries {
		return p, nil
	}
	var out bytes.Buffer
	if p.Media == "image/png" {
		err = imaging.Encode(&out, img, imaging.PNG)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 95})
	}
	p.Data = out.Bytes()
	return p, err
}
