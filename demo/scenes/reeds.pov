// Reeds and open water. View 1: weather from the west; view 2: first frost, before sunrise, near. Metres.
#version 3.7;
#include "common.inc"
#include "weather.inc"
global_settings { assumed_gamma 1.0 max_trace_level 4 }
#include "reeds.inc"

#if (View = 1) Lens(<0,2.05,-9>, <0.5,2.15,20>, 54, <0,1,4>, 0.03, 1.5) #end
#if (View = 2) Lens(<-1.5,1.45,-4.6>, <-0.6,1.55,6>, 34, <-1.4,1.4,0.6>, 0.05, 1.5) #end

#if (View = 1)
  Clouded(<0.30,0.34,0.40>, <0.95,0.95,0.93>, <0.26,0.40,0.64>, <0.96,0.95,0.90>, 0.55, 2.2)
  light_source { <-300,170,-170> rgb <1.6,1.45,1.2> area_light <20,0,0>, <0,20,0>, 2, 2 jitter parallel point_at 0 }
  light_source { <60,260,-160> rgb <0.40,0.44,0.50> area_light <260,0,0>, <0,0,260>, 2, 2 jitter parallel point_at 0 }
  #declare Stem = <0.36,0.27,0.12>; #declare Plume = <0.30,0.22,0.15>; #declare Far = <0.22,0.25,0.26>;
#else
  Clouded(<0.52,0.46,0.52>, <0.96,0.70,0.56>, <0.62,0.64,0.78>, <1.15,0.80,0.55>, 0.60, 1)
  light_source { <120,60,300> rgb <1.4,0.85,0.5> area_light <20,0,0>, <0,20,0>, 2, 2 jitter parallel point_at 0 }
  light_source { <0,260,-160> rgb <0.50,0.52,0.62> area_light <260,0,0>, <0,0,260>, 2, 2 jitter parallel point_at 0 }
  #declare Stem = <0.46,0.40,0.30>; #declare Plume = <0.58,0.54,0.50>; #declare Far = <0.42,0.38,0.42>;
  fog { fog_type 2 distance 60 rgb <0.95,0.76,0.66> fog_offset 0 fog_alt 1.0 up y }
#end

Water(<0.020,0.024,0.024>, 1.1)
Shore(700, 26, 34, (Far*2+<0.5,0.52,0.55>)/3, 1.2)
Shore(330, 7, 10, Far, 3.9)
#declare R = seed(8);
#declare Stems = array[12] { Stem0, Stem1, Stem2, Stem3, Stem4, Stem5, Stem6, Stem7, Stem8, Stem9, Stem10, Stem11 }
#declare Plumes = array[12] { Plume0, Plume1, Plume2, Plume3, Plume4, Plume5, Plume6, Plume7, Plume8, Plume9, Plume10, Plume11 }
#macro Reed(X, Z, Size)
  #local K = int(rand(R)*11.99); #local T = 0.55+0.7*rand(R); #local G = <-0.05,0.03,-0.02>*rand(R);
  union {
    object { Stems[K] pigment { rgb Stem*T+G*T } finish { diffuse 0.6, 0.3 } }
    object { Plumes[K] pigment { rgb Plume*T } finish { diffuse 0.6, 0.35 } }
    scale Size*(0.75+0.45*rand(R)) rotate y*(40*rand(R)-20) rotate z*(6-12*rand(R)) translate <X,0,Z>
  }
#end
// The beds stand back from the creek, which winds to the right.
#macro Bed(Many, Z0, Z1)
  #for (I, 1, Many)
    #local Z = Z0 + (Z1-Z0)*rand(R);
    #local Creek = 1.6*sin(Z*0.16+0.4) + 0.2*Z*0.25; #local Wide = 1.6 + 0.5*sin(Z*0.5) + Z*0.12;
    #if (rand(R) < 0.55) Reed(Creek-Wide-0.9*Z*pow(rand(R),1.6)*0.9-1.2*rand(R)-0.3*sin(Z*2.1), Z, 1) #else Reed(Creek+Wide+0.9*Z*pow(rand(R),1.6)*0.9+1.2*rand(R)+0.3*sin(Z*1.7), Z, 1) #end
  #end
#end
#if (View = 1)
  Bed(2200, 1, 14) Bed(3600, 14, 60)
#else
  #for (I, 1, 70) Reed(-2.6+3.0*rand(R), 0.2+1.2*rand(R), 0.85) #end
  #for (I, 1, 900) Reed(-16+34*rand(R), 12+14*rand(R), 0.9) #end
#end
