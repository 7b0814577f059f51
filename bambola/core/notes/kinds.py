"""What makers call the parts of their figures, and what each name brings: a shape, what it sits on, where,
whether it is a pair, and how large it usually is beside what it sits on.

A new name is one more line of the table. Names are given as singular/plural, those of one language
parted by commas; all languages are read, whichever the window speaks.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator, Mapping
from functools import cache
from typing import Literal, cast

from bambola.core.frozen import frozen

Form = Literal["ball", "pad", "cone", "limb", "leaf", "sausage", "ring", "eyes"]
Site = Literal[
    "root", "top", "cap", "front", "snout", "nose", "muzzle", "back", "rump", "spine", "shoulder", "hip",
    "foot", "end", "ear", "horn", "eye", "cheek", "belly", "wing", "fin", "fluke", "flipper", "beard",
    "round", "handle", "spout", "under", "brim", "neck", "side",
]  # fmt: skip


@frozen
class PartKind:
    """A sort of part. ``bearers`` are the kinds that it may sit on, the likeliest first, else the root;
    ``shares`` its usual sizes beside the width of what it sits on, in the order of its form: width, depth
    and height of a ball or pad, length and thickness of a limb or sausage, length, base and tip of a cone,
    length, width and thickness of a leaf, thickness of a ring, width of eyes."""

    id: str
    form: Form
    bearers: tuple[str, ...]
    site: Site
    is_pair: bool
    is_wired: bool
    is_face: bool
    is_worn: bool
    shares: tuple[float, ...]


_TABLE = """
body      ball    -                 root     ....  1 0.9 1.3     : body/bodies, torso/torsos, trunk/trunks, tummy/tummies : Körper/Körper, Rumpf/Rümpfe, Leib/Leiber
dress     cone    -                 root     ....  1.3 1.1 0.5   : dress/dresses, gown/gowns, robe/robes, coat/coats, cassock/cassocks, bell skirt/bell skirts : Kleid/Kleider, Robe/Roben, Gewand/Gewänder, Mantel/Mäntel, Kutte/Kutten
vessel    ball    -                 root     ....  1 1 1.2       : jug/jugs, pot/pots, vase/vases, cup/cups, teapot/teapots, basket/baskets, gourd/gourds, pumpkin/pumpkins, apple/apples, egg/eggs : Krug/Krüge, Topf/Töpfe, Vase/Vasen, Tasse/Tassen, Kanne/Kannen, Korb/Körbe, Kürbis/Kürbisse, Apfel/Äpfel, Ei/Eier
chest     ball    body              front    ....  0.8 0.5 0.7   : chest/chests, breast/breasts, bib/bibs : Brust/Brüste, Latz/Lätze
belly     ball    body,dress        belly    ....  0.7 0.3 0.7   : belly/bellies, stomach/stomachs, tummy patch/tummy patches : Bauch/Bäuche
hump      ball    body              spine    ....  0.5 0.5 0.45  : hump/humps : Höcker/Höcker, Buckel/Buckel
rump      ball    body              rump     ....  0.8 0.8 0.8   : rump/rumps, bottom/bottoms, haunch/haunches : Hinterteil/Hinterteile, Po/Pos
shell     pad     body              cap      ....  1.15 1.15 0.6 : shell/shells, carapace/carapaces : Panzer/Panzer, Schale/Schalen, Schneckenhaus/Schneckenhäuser
neck      limb    body,dress        neck     .w..  0.6 0.4       : neck/necks, throat/throats : Hals/Hälse
head      ball    neck,body,dress   top      ....  0.8 0.75 0.75 : head/heads, skull/skulls, face/faces : Kopf/Köpfe, Haupt/Häupter, Gesicht/Gesichter
snout     cone    head              snout    ..f.  0.5 0.45 0.3  : snout/snouts, muzzle/muzzles, trunk tip/trunk tips : Schnauze/Schnauzen, Maul/Mäuler
beak      cone    head              snout    ..f.  0.4 0.28 0.1  : beak/beaks, bill/bills : Schnabel/Schnäbel
proboscis limb    head              snout    ....  1 0.3         : elephant trunk/elephant trunks, proboscis/proboscises : Rüssel/Rüssel
nose      ball    snout,head        nose     ..f.  0.25 0.22 0.2 : nose/noses, nose tip/nose tips : Nase/Nasen, Näschen/Näschen
nostril   ball    snout,nose,head   nose     p.f.  0.12 0.1 0.1  : nostril/nostrils : Nüster/Nüstern, Nasenloch/Nasenlöcher
mouth     ball    snout,head        muzzle   ..f.  0.4 0.25 0.2  : mouth/mouths, lips/lips, jaw/jaws : Mund/Münder, Lippe/Lippen, Kiefer/Kiefer
chin      ball    head              muzzle   ..f.  0.3 0.25 0.2  : chin/chins : Kinn/Kinne
tongue    leaf    mouth,snout,head  muzzle   ..f.  0.3 0.15 0.05 : tongue/tongues : Zunge/Zungen
tooth     cone    snout,mouth,head  muzzle   p.f.  0.15 0.08 0.03: tooth/teeth, fang/fangs : Zahn/Zähne
tusk      cone    snout,head        muzzle   p.f.  0.5 0.12 0.04 : tusk/tusks : Stoßzahn/Stoßzähne, Hauer/Hauer
cheek     ball    head              cheek    p.f.  0.25 0.15 0.25: cheek/cheeks, jowl/jowls : Wange/Wangen, Backe/Backen
eye       eyes    head,body         eye      p.f.  0.1           : eye/eyes : Auge/Augen
eyemound  ball    head,body         horn     p.f.  0.3 0.28 0.28 : eye mound/eye mounds, eye bump/eye bumps : Augenhügel/Augenhügel
eyestalk  limb    head,body         horn     pwf.  0.35 0.1      : eye stalk/eye stalks, eyestalk/eyestalks : Stielauge/Stielaugen, Augenstiel/Augenstiele
eyelid    leaf    head              eye      p.f.  0.2 0.1 0.04  : lid/lids, eyelid/eyelids : Lid/Lider, Augenlid/Augenlider
eyebrow   limb    head              eye      p.f.  0.25 0.06     : brow/brows, eyebrow/eyebrows : Braue/Brauen, Augenbraue/Augenbrauen
disc      leaf    head              eye      p.f.  0.45 0.4 0.08 : face disc/face discs, facial disc/facial discs, eye patch/eye patches, eye ring/eye rings : Gesichtsscheibe/Gesichtsscheiben, Augenfleck/Augenflecken
ear       leaf    head              ear      p...  0.45 0.32 0.09: ear/ears : Ohr/Ohren
earinside leaf    ear               front    ..f.  0.6 0.5 0.06  : inner ear/inner ears : Innenohr/Innenohren
tuft      cone    head              ear      p...  0.3 0.16 0.04 : ear tuft/ear tufts, tuft/tufts : Büschel/Büschel, Pinselohr/Pinselohren
horn      cone    head              horn     p...  0.5 0.16 0.05 : horn/horns : Horn/Hörner
unihorn   cone    head              top      ....  0.6 0.16 0.04 : unicorn horn/unicorn horns : Einhorn/Einhörner
antler    limb    head              horn     pw..  0.9 0.1       : antler/antlers : Geweih/Geweihe, Geweihstange/Geweihstangen
feeler    limb    head,body         horn     pw..  0.6 0.05      : feeler/feelers, antenna/antennae : Fühler/Fühler, Antenne/Antennen
comb      leaf    head              top      ....  0.4 0.45 0.1  : comb/combs, crest/crests, topknot/topknots : Kamm/Kämme, Haube/Hauben
wattle    ball    head              muzzle   p.f.  0.15 0.1 0.25 : wattle/wattles : Kehllappen/Kehllappen
hair      pad     head              cap      ....  1.08 1.08 0.6 : hair/hair, wig/wigs, mop/mops : Haar/Haare, Perücke/Perücken
bun       ball    hair,head         top      ....  0.4 0.4 0.36  : bun/buns, hair knot/hair knots : Dutt/Dutts, Haarknoten/Haarknoten
plait     limb    hair,head         side     p...  1 0.16        : plait/plaits, braid/braids, pigtail/pigtails : Zopf/Zöpfe
fringe    pad     head              front    ..f.  0.7 0.2 0.3   : fringe/fringes, forelock/forelocks : Pony/Ponys, Stirnlocke/Stirnlocken
mane      pad     neck,head         back     ....  0.7 0.5 1.1   : mane/manes, ruff of hair/ruffs of hair : Mähne/Mähnen
beard     cone    head              beard    ..f.  1 0.6 0.2     : beard/beards, goatee/goatees : Bart/Bärte
moustache limb    head              muzzle   p.f.  0.4 0.12      : moustache/moustaches : Schnurrbart/Schnurrbärte
arm       limb    body,dress        shoulder pw..  1.1 0.26      : arm/arms, forelimb/forelimbs, sleeve/sleeves : Arm/Arme, Ärmel/Ärmel
forearm   limb    arm               end      pw..  2 0.8         : forearm/forearms : Unterarm/Unterarme
hand      ball    arm,body,dress    end      p...  1 1 1         : hand/hands, mitten/mittens, fist/fists : Hand/Hände, Faust/Fäuste, Handschuh/Handschuhe
paw       ball    arm,leg,body      end      p...  1 1 0.9       : paw/paws : Pfote/Pfoten, Tatze/Tatzen, Pranke/Pranken
finger    limb    hand,paw          end      p...  0.6 0.25      : finger/fingers : Finger/Finger
thumb     limb    hand,paw          side     p...  0.5 0.28      : thumb/thumbs : Daumen/Daumen
claw      cone    paw,foot,arm,leg  end      p...  0.6 0.25 0.05 : claw/claws, talon/talons : Kralle/Krallen, Klaue/Klauen
pincer    ball    arm,body          end      p...  1.8 1 1.6     : pincer/pincers, nipper/nippers : Schere/Scheren, Zange/Zangen
leg       limb    body,dress        hip      pw..  1 0.3         : leg/legs, hind limb/hind limbs : Bein/Beine
foreleg   limb    body              hip      pw..  1.1 0.3       : foreleg/forelegs, front leg/front legs : Vorderbein/Vorderbeine
hindleg   limb    body              hip      pw..  1.1 0.34      : hindleg/hindlegs, hind leg/hind legs, back leg/back legs : Hinterbein/Hinterbeine
thigh     ball    body              hip      p...  0.5 0.6 0.6   : thigh/thighs, drumstick/drumsticks : Schenkel/Schenkel, Oberschenkel/Oberschenkel
foot      pad     leg,body,dress    foot     p...  0.4 0.6 0.25  : foot/feet, flat foot/flat feet : Fuß/Füße
forefoot  pad     foreleg,leg,body  foot     p...  1 1.3 0.6     : forefoot/forefeet, front paw/front paws, front foot/front feet : Vorderfuß/Vorderfüße, Vorderpfote/Vorderpfoten
hindfoot  pad     hindleg,leg,body  foot     p...  1 1.5 0.6     : hindfoot/hindfeet, hind foot/hind feet, hind paw/hind paws, back paw/back paws : Hinterfuß/Hinterfüße, Hinterpfote/Hinterpfoten
hoof      pad     leg,foreleg,hindleg,body foot p... 1 1.1 0.7   : hoof/hooves : Huf/Hufe
toe       ball    foot,paw          front    p.f.  0.3 0.3 0.25  : toe/toes : Zehe/Zehen
shoe      pad     leg,foot,body,dress foot   p...  1.1 1.6 0.8   : shoe/shoes, boot/boots, slipper/slippers, clog/clogs : Schuh/Schuhe, Stiefel/Stiefel, Pantoffel/Pantoffeln
wing      leaf    body              wing     p...  0.9 0.5 0.09  : wing/wings : Flügel/Flügel, Schwinge/Schwingen
fin       leaf    body              fin      ....  0.4 0.45 0.1  : fin/fins, dorsal fin/dorsal fins : Flosse/Flossen, Rückenflosse/Rückenflossen
flipper   leaf    body              flipper  p...  0.6 0.3 0.08  : flipper/flippers, side fin/side fins : Seitenflosse/Seitenflossen, Brustflosse/Brustflossen
fluke     leaf    tail,body         fluke    p...  0.5 0.4 0.08  : fluke/flukes, tail fin/tail fins : Fluke/Fluken, Schwanzflosse/Schwanzflossen
tail      limb    body,rump         rump     .w..  0.9 0.2       : tail/tails, brush/brushes : Schwanz/Schwänze, Schweif/Schweife, Rute/Ruten
tailtip   ball    tail              end      ....  1.1 1.1 1.4   : tail tip/tail tips, tassel/tassels : Schwanzspitze/Schwanzspitzen, Quaste/Quasten
bobtail   ball    body              rump     ....  0.3 0.3 0.3   : bobtail/bobtails, scut/scuts, pompom tail/pompom tails : Stummelschwanz/Stummelschwänze, Blume/Blumen
tailfan   leaf    body              rump     ....  0.7 0.45 0.09 : tail feathers/tail feathers, tail fan/tail fans : Schwanzfeder/Schwanzfedern
spike     cone    body,tail,head    spine    ....  0.2 0.14 0.03 : spike/spikes, spine/spines, quill/quills, thorn/thorns : Stachel/Stacheln, Zacke/Zacken, Dorn/Dornen
scale     leaf    body              spine    ....  0.2 0.2 0.05  : back plate/back plates, plate/plates : Platte/Platten, Rückenplatte/Rückenplatten
tentacle  limb    body,head         hip      .w..  1 0.16        : tentacle/tentacles, sucker arm/sucker arms : Tentakel/Tentakel, Fangarm/Fangarme
wart      ball    body,head         belly    ..f.  0.1 0.1 0.08  : wart/warts, bump/bumps : Warze/Warzen, Knubbel/Knubbel
knob      ball    lid2,vessel,body  top      ....  0.2 0.2 0.2   : knob/knobs, finial/finials : Knauf/Knäufe
spot      ball    cap2,shell,body,head belly    ..f.  0.2 0.06 0.2  : spot/spots, patch/patches : Fleck/Flecken, Tupfen/Tupfen
hat       cone    head,hair         cap      ...g  1 1 0.1       : hat/hats, cap/caps, pointed hat/pointed hats, witch hat/witch hats, hood/hoods, bonnet/bonnets : Hut/Hüte, Mütze/Mützen, Zipfelmütze/Zipfelmützen, Kapuze/Kapuzen, Haube zum Binden/Hauben zum Binden
brim      pad     head,hair,hat     brim     ...g  1.8 1.8 0.12  : brim/brims, hat brim/hat brims : Krempe/Krempen, Hutkrempe/Hutkrempen
bobble    ball    hat               end      ....  0.3 0.3 0.3   : bobble/bobbles, pompom/pompoms : Bommel/Bommeln, Pompon/Pompons
crown     pad     head,hair         cap      ...g  0.6 0.6 0.3   : crown/crowns, tiara/tiaras : Krone/Kronen, Krönchen/Krönchen
scarf     ring    neck,body,dress   round    ...g  0.2           : scarf/scarves, shawl/shawls, collar/collars, muffler/mufflers, neckerchief/neckerchiefs, ruff/ruffs : Schal/Schals, Halstuch/Halstücher, Kragen/Kragen, Tuch/Tücher
belt      ring    body,dress        round    ...g  0.08          : belt/belts, sash/sashes, girdle/girdles, band/bands : Gürtel/Gürtel, Schärpe/Schärpen
skirt     cone    body              under    ...g  0.7 1.3 0.9   : skirt/skirts, tutu/tutus, apron/aprons, kilt/kilts : Rock/Röcke, Schürze/Schürzen
cape      cone    body,dress        round    ...g  0.5 1.25 0.6  : cape/capes, cloak/cloaks, poncho/ponchos : Umhang/Umhänge, Cape/Capes, Poncho/Ponchos
bow       leaf    head,neck,body    front    ..f.  0.35 0.2 0.08 : bow/bows, bow tie/bow ties : Schleife/Schleifen, Fliege/Fliegen
button    ball    body,dress        belly    ..f.  0.08 0.05 0.08: button/buttons : Knopf/Knöpfe
bag       ball    body,dress        side     ....  0.4 0.2 0.4   : bag/bags, satchel/satchels, pouch/pouches, sack/sacks : Tasche/Taschen, Beutel/Beutel, Sack/Säcke
broom     limb    hand,arm,body     side     ....  1.6 0.06      : broom/brooms, stick/sticks, staff/staffs, wand/wands : Besen/Besen, Stock/Stöcke, Stab/Stäbe
lantern   ball    hand,arm,body     end      ....  0.3 0.3 0.4   : lantern/lanterns, lamp/lamps : Laterne/Laternen, Lampe/Lampen
ball      ball    hand,paw,body     end      ....  0.4 0.4 0.4   : ball/balls, apple in hand/apples in hand, nut/nuts, acorn/acorns, berry/berries : Ball/Bälle, Nuss/Nüsse, Eichel/Eicheln, Beere/Beeren
handle    limb    vessel,body,bag   handle   ....  0.9 0.12      : handle/handles : Henkel/Henkel, Griff/Griffe
spout     cone    vessel,body       spout    ....  0.5 0.25 0.14 : spout/spouts : Tülle/Tüllen, Ausguss/Ausgüsse
lid2      pad     vessel,body       top      ....  0.7 0.7 0.15  : pot lid/pot lids, cover/covers, lid/lids : Deckel/Deckel
rim       ring    vessel,body       top      ....  0.1           : rim/rims, lip/lips of it : Rand/Ränder
base      pad     vessel,body,dress under    ....  0.8 0.8 0.15  : base/bases, stand/stands, plinth/plinths : Sockel/Sockel, Standfläche/Standflächen, Boden/Böden
stem      sausage vessel,body       top      ....  0.3 0.12      : stem/stems, stalk/stalks : Stiel/Stiele, Stängel/Stängel
leafpart  leaf    stem,vessel,body  side     ....  0.5 0.3 0.06  : leaf/leaves : Blatt/Blätter
petal     leaf    head,body,stem    side     ....  0.6 0.4 0.07  : petal/petals : Blütenblatt/Blütenblätter
flower    ball    head,body,hand    side     ....  0.3 0.15 0.3  : flower/flowers, rose/roses, blossom/blossoms : Blüte/Blüten, Rose/Rosen
cap2      pad     stem,body         cap      ....  1.8 1.8 0.8   : mushroom cap/mushroom caps : Pilzhut/Pilzhüte
"""


def _kinds() -> Iterator[tuple[PartKind, list[tuple[str, str]]]]:
    for line in filter(None, _TABLE.splitlines()):
        head, *languages = line.split(":")
        id, form, bearers, site, flags, *shares = head.split()
        names = [
            cast("tuple[str, str]", tuple(pair.strip().split("/")))
            for told in languages
            for pair in told.split(",")
        ]
        yield (
            PartKind(
                id,
                cast(Form, form),
                () if bearers == "-" else tuple(bearers.split(",")),
                cast(Site, site),
                "p" in flags,
                "w" in flags,
                "f" in flags,
                "g" in flags,
                tuple(map(float, shares)),
            ),
            names,
        )


KINDS: Mapping[str, PartKind] = {kind.id: kind for kind, _ in _kinds()}
"""Every sort of part by its id. Shares are judged by our own figures. See craft.md, 9."""


@frozen
class Called:
    """A name as it is in the table: of which kind, and its singular and plural."""

    kind: str
    one: str
    many: str
    is_many: bool


def plain(word: str) -> str:
    """Return a word as names are compared: without capitals, accents and umlauts."""
    bare = unicodedata.normalize("NFKD", word.casefold())
    return "".join(c for c in bare if not unicodedata.combining(c)).strip()


@cache
def names() -> Mapping[str, tuple[Called, ...]]:
    """Return what every name that is known may stand for, in every language, singular and plural, the usual
    meaning first; names are as :func:`plain` has them."""
    found: dict[str, tuple[Called, ...]] = {}
    for kind, pairs in _kinds():
        for one, many in pairs:
            for name, is_many in dict.fromkeys(((plain(one), one == many), (plain(many), True))):
                known = found.get(name, ())
                if kind.id not in {called.kind for called in known}:
                    found[name] = (*known, Called(kind.id, one, many, is_many))
    return found
