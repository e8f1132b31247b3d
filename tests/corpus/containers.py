"""Containers and the codecs that are found in them."""

from fractions import Fraction

from tests.corpus.making import AV1, MPEG2, MPEG4, SD, VP9, X264, X265, Member, encoded

GROUP = "Containers and codecs"
NTSC = Fraction(30000, 1001)

TABLE: dict[str, tuple[tuple[str, str, str], ...]] = {
    "mp4": (
        ("H.264, AAC", X264, "aac"),
        ("H.264, AC-3", X264, "ac3"),
        ("H.264, MP3", X264, "libmp3lame"),
        ("H.264, ALAC", X264, "alac"),
        ("H.264, Opus", X264, "libopus"),
        ("H.264, FLAC", X264, "flac -strict -2"),
        ("H.265, AAC", X265 + " -tag:v hvc1", "aac"),
        ("AV1, AAC", AV1, "aac"),
        ("VP9, AAC", VP9, "aac"),
        ("MPEG-4 part 2, AAC", MPEG4, "aac"),
        ("MPEG-4 part 2 with B-frames, AAC", MPEG4 + " -bf 2", "aac"),
        ("MPEG-2, AAC", MPEG2, "aac"),
        ("motion JPEG, AAC", "mjpeg -q:v 2", "aac"),
    ),
    "mov": (
        ("H.264, AAC", X264, "aac"),
        ("H.264, PCM 16", X264, "pcm_s16le"),
        ("H.265, PCM 24", X265 + " -tag:v hvc1", "pcm_s24le"),
        ("ProRes 422, PCM 24", "prores_ks -profile:v 2", "pcm_s24le"),
        ("ProRes 4444, PCM big-endian", "prores_ks -profile:v 4 -pix_fmt yuv444p10le", "pcm_s16be"),
        ("motion JPEG, PCM float", "mjpeg -q:v 2", "pcm_f32le"),
        ("MPEG-2, PCM 16", MPEG2, "pcm_s16le"),
        ("PNG, IMA ADPCM", "png", "adpcm_ima_qt"),
        ("animation, PCM 16", "qtrle", "pcm_s16le"),
        ("uncompressed UYVY", "rawvideo -pix_fmt uyvy422", "pcm_s16le"),
        ("uncompressed v210", "v210", "pcm_s24le"),
        ("Cinepak, µ-law", "cinepak", "pcm_mulaw"),
        ("JPEG 2000, ALAC", "jpeg2000 -pix_fmt yuv422p", "alac"),
        ("Sorenson 1, PCM 8", "svq1 -q:v 2", "pcm_u8"),
    ),
    "mkv": (
        ("H.264, AAC", X264, "aac"),
        ("H.264 with B-frames, AAC", X264 + " -bf 3", "aac"),
        ("H.264, Vorbis", X264, "libvorbis"),
        ("H.264, Opus", X264, "libopus"),
        ("H.264, MP3", X264, "libmp3lame"),
        ("H.264, FLAC", X264, "flac"),
        ("H.264, AC-3", X264, "ac3"),
        ("H.264, E-AC-3", X264, "eac3"),
        ("H.264, DTS", X264, "dca -strict -2"),
        ("H.264, TrueHD", X264, "truehd -strict -2"),
        ("H.264, MP2", X264, "mp2"),
        ("H.265, PCM 16", X265, "pcm_s16le"),
        ("MPEG-2, AC-3", MPEG2, "ac3"),
        ("MPEG-4 part 2, MP3", MPEG4 + " -bf 2", "libmp3lame"),
        ("FFV1, PCM 24", "ffv1 -level 3", "pcm_s24le"),
        ("VP8, Vorbis", "libvpx -deadline realtime -b:v 1M", "libvorbis"),
        ("AV1, Opus", AV1, "libopus"),
        ("Theora, Vorbis", "libtheora -q:v 9", "libvorbis"),
        ("HuffYUV, PCM 16", "huffyuv", "pcm_s16le"),
        ("Ut Video, PCM float", "utvideo", "pcm_f32le"),
        ("ProRes, FLAC", "prores_ks -profile:v 1", "flac"),
        ("motion JPEG, WavPack", "mjpeg -q:v 2", "wavpack"),
        ("MS-MPEG-4 v3, MP3", "msmpeg4 -q:v 2", "libmp3lame"),
        ("WMV 2, WMA", "wmv2 -q:v 2", "wmav2"),
    ),
    "webm": (
        ("VP8, Vorbis", "libvpx -deadline realtime -b:v 1M", "libvorbis"),
        ("VP9, Opus", VP9, "libopus"),
        ("VP9 with hidden pictures, Opus", "libvpx-vp9 -deadline good -cpu-used 5 -auto-alt-ref 1 -b:v 1M", "libopus"),
        ("AV1, Opus", AV1, "libopus"),
    ),
    "avi": (
        ("MPEG-4 part 2, MP3", MPEG4, "libmp3lame"),
        ("MPEG-4 part 2 with B-frames, MP3", MPEG4 + " -bf 2", "libmp3lame"),
        ("H.264, MP3", X264, "libmp3lame"),
        ("H.264 with B-frames, AC-3", X264 + " -bf 2", "ac3"),
        ("motion JPEG, PCM 16", "mjpeg -q:v 2", "pcm_s16le"),
        ("HuffYUV, PCM 16", "huffyuv", "pcm_s16le"),
        ("uncompressed BGR, PCM 16", "rawvideo -pix_fmt bgr24", "pcm_s16le"),
        ("MS-MPEG-4 v2, MS ADPCM", "msmpeg4v2 -q:v 2", "adpcm_ms"),
        ("FFV1, PCM 16", "ffv1", "pcm_s16le"),
        ("Ut Video, PCM 16", "utvideo", "pcm_s16le"),
        ("MPEG-2, MP2", "mpeg2video -q:v 2", "mp2"),
        ("MPEG-1, MP2", "mpeg1video -q:v 2", "mp2"),
        ("Cinepak, PCM 8", "cinepak", "pcm_u8"),
        ("without sound", MPEG4, ""),
    ),
    "ts": (
        ("H.264, AAC", X264, "aac"),
        ("H.264 with B-frames, AAC LATM", X264 + " -bf 3", "aac -f mpegts -mpegts_flags latm"),
        ("H.264, AC-3", X264, "ac3"),
        ("H.264, MP2", X264, "mp2"),
        ("H.265, AAC", X265, "aac"),
        ("MPEG-2, MP2", MPEG2, "mp2"),
        ("MPEG-2, AC-3", MPEG2, "ac3"),
        ("MPEG-2, E-AC-3", MPEG2, "eac3"),
        ("MPEG-4 part 2, MP3", MPEG4, "libmp3lame"),
        ("without sound", X264, ""),
    ),
    "m2ts": (("H.264, AC-3", X264, "ac3"), ("MPEG-2, disc PCM", MPEG2, "pcm_bluray -ar 48000")),
    "mpg": (
        ("MPEG-1, MP2", "mpeg1video -q:v 2 -bf 2 -g 12", "mp2"),
        ("MPEG-2, MP2", MPEG2, "mp2"),
        ("MPEG-2, one group of pictures, MP2", "mpeg2video -q:v 2 -bf 2 -g 300", "mp2"),
        ("MPEG-2, only key pictures", "mpeg2video -q:v 2 -g 1", "mp2"),
        ("MPEG-2, without B-frames", "mpeg2video -q:v 2 -g 15", "mp2"),
    ),
    "vob": (
        ("MPEG-2, AC-3", MPEG2, "ac3 -f vob"),
        ("MPEG-2, PCM", MPEG2, "pcm_dvd -f vob"),
        ("MPEG-2, DTS", MPEG2, "dca -strict -2 -f vob"),
    ),
    "ogv": (
        ("Theora, Vorbis", "libtheora -q:v 9", "libvorbis"),
        ("Theora, Opus", "libtheora -q:v 9", "libopus"),
        ("Theora, FLAC", "libtheora -q:v 9", "flac"),
        ("Theora, without sound", "libtheora -q:v 9", ""),
    ),
    "flv": (("H.264, AAC", X264, "aac"), ("Sorenson H.263, MP3", "flv1 -q:v 2", "libmp3lame -ar 44100")),
    "wmv": (("WMV 2, WMA", "wmv2 -q:v 2", "wmav2"), ("WMV 1, WMA 1", "wmv1 -q:v 2", "wmav1")),
    "mxf": (("MPEG-2, PCM 16", MPEG2, "pcm_s16le"), ("H.264 all key pictures", X264 + " -g 1", "pcm_s24le")),
    "nut": (("H.264, AAC", X264, "aac"),),
    "y4m": (("uncompressed", "wrapped_avframe", ""),),
    "ivf": (("VP8", "libvpx -deadline realtime -b:v 1M", ""), ("VP9", VP9, ""), ("AV1", AV1, "")),
    "m2v": (("MPEG-2 stream alone", MPEG2, ""),),
    "m1v": (("MPEG-1 stream alone", "mpeg1video -q:v 2 -bf 2", ""),),
    "h264": (("H.264 stream alone", X264, ""),),
    "hevc": (("H.265 stream alone", X265, ""),),
    "gif": (("moving GIF", "gif", ""),),
}


def members() -> list[Member]:
    """One member for each row, and formats of fixed sizes."""
    made = [
        Member(f"{suffix.upper()}: {name}", GROUP, f"clip.{suffix}", encoded(video, audio))
        for suffix, rows in TABLE.items()
        for name, video, audio in rows
    ]
    made += [
        Member("DV: 625 lines", GROUP, "clip.dv", encoded("dvvideo", "pcm_s16le", size=SD)),
        Member("MOV: DV, 625 lines", GROUP, "clip.mov", encoded("dvvideo", "pcm_s16le", size=SD)),
        Member("AVI: DV, 625 lines", GROUP, "clip.avi", encoded("dvvideo", "pcm_s16le", size=SD)),
        Member(
            "DV: 525 lines",
            GROUP,
            "clip.dv",
            encoded("dvvideo -pix_fmt yuv411p", "pcm_s16le", size=(720, 480), rate=NTSC),
        ),
        Member(
            "MXF: DNxHD", GROUP, "clip.mxf", encoded("dnxhd -b:v 120M -pix_fmt yuv422p", "pcm_s24le", size=(1920, 1080))
        ),
        Member(
            "MOV: DNxHR",
            GROUP,
            "clip.mov",
            encoded("dnxhd -profile:v dnxhr_sq -pix_fmt yuv422p", "pcm_s16le", size=(640, 360)),
        ),
        Member("3GP: H.263, AAC", GROUP, "clip.3gp", encoded("h263 -q:v 2", "aac", size=(176, 144))),
        Member("MP4: fragmented", GROUP, "clip.mp4", encoded(X264, "aac", more="-movflags frag_keyframe+empty_moov")),
        Member(
            "MP4: one fragment a picture",
            GROUP,
            "clip.mp4",
            encoded(X264, "aac", more="-movflags frag_every_frame+empty_moov+default_base_moof"),
            sound=False,  # its maker gives the last two packets of sound one time
        ),
        Member("MP4: index in front", GROUP, "clip.mp4", encoded(X264, "aac", more="-movflags faststart")),
        Member("MKV: live, without index or duration", GROUP, "clip.mkv", encoded(X264, "aac", more="-live 1")),
        Member(
            "MKV: without index",
            GROUP,
            "clip.mkv",
            encoded(X264, "aac", more="-reserve_index_space 0 -cluster_time_limit 200"),
        ),
        Member("MPG: two pictures", GROUP, "clip.mpg", encoded(MPEG2, "mp2", frames=2), sound=False),
        Member("MP4: one picture", GROUP, "clip.mp4", encoded(X264, frames=1)),
        Member("TS: one picture", GROUP, "clip.ts", encoded(MPEG2, frames=1)),
    ]
    return made
