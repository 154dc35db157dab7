/*
 * The plant of src/core/flight (panels, propulsion, battery, rigid body) in C, as a yardstick: same equations, same
 * order, same step. Reads what yardstick.ts wrote about a craft, flies it for some steps, prints the seconds it took
 * and where the craft ended.
 *
 *   gcc -O2 -o .cache/yardstick/plant tools/yardstick/plant.c -lm
 *   .cache/yardstick/plant craft.txt 400000
 */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define MAX_PANELS 64
#define MAX_MOTORS 8
#define MAX_SURFACES 12
#define STRIDE 21
#define GRAVITY 9.80665

enum { X, Y, Z, CX, CZ, NX, NY, NZ, AREA, SLOPE, INDUCED, STALL, LIFT_MAX, TAU, ZERO_LIFT, MOMENT0, MOMENT_TAU, SX, SY, SZ, CHORD };

static int panels, wing_panels, tail_panels, motors, surfaces;
static double table[MAX_PANELS * STRIDE];
static int surface_of[MAX_PANELS];
static double wake_share[MAX_PANELS * MAX_MOTORS];
static double wing_area, body_drag, body_side, body_aft, downwash;
static double mass, ix, iy, iz;
static double arms[3 * MAX_MOTORS], axes[3 * MAX_MOTORS], senses[MAX_MOTORS];
/* Of each motor: V per rad/s, inertia, bell inertia, resistance, idle and greatest current, diameter, thrust0, power0, advance of no thrust. */
static double motor[MAX_MOTORS][10];
static double cells, capacity, resistance;
static double curve[11];

static double position[3], velocity[3], attitude[4] = {1, 0, 0, 0}, rates[3], air[3], force[3], moment[3];
static double deflections[MAX_SURFACES], duties[MAX_MOTORS], wake[MAX_MOTORS];
static double omega[MAX_MOTORS], thrust[MAX_MOTORS], torque[MAX_MOTORS], drive[MAX_MOTORS];
static double voltage, used;
static double wing_lift;

static double read_number(FILE *f) {
  double v;
  if (fscanf(f, "%lf", &v) != 1) {
    fprintf(stderr, "the craft's file is too short\n");
    exit(1);
  }
  return v;
}

static double smooth_step(double v, double low, double high) {
  double t = (v - low) / (high - low);
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  return t * t * (3 - 2 * t);
}

static double flow_angle(double down, double along) {
  if (along > 0) {
    double t = down / along;
    double t2 = t * t;
    if (t2 < 0.1225) return t * (1 - t2 * (1.0 / 3 - t2 * (0.2 - t2 * (1.0 / 7 - t2 / 9))));
  }
  return atan2(down, along);
}

static void evaluate(double rho) {
  double vx0 = air[0], vy0 = air[1], vz0 = air[2], p = rates[0], q = rates[1], r = rates[2];
  double fx = 0, fy = 0, fz = 0, mx = 0, my = 0, mz = 0, lift_area = 0, epsilon = 0;
  for (int i = 0; i < panels; i++) {
    const double *t = table + i * STRIDE;
    if (i == wing_panels) {
      wing_lift = lift_area / wing_area;
      epsilon = downwash * wing_lift;
    } else if (i == tail_panels) epsilon = 0;
    double x = t[X], y = t[Y], z = t[Z];
    double vx = vx0 + q * z - r * y;
    double vy = vy0 + r * x - p * z;
    double vz = vz0 + p * y - q * x;
    for (int k = 0; k < motors; k++) vx += wake_share[i * motors + k] * wake[k];
    double cx = t[CX], cz = t[CZ], nx = t[NX], ny = t[NY], nz = t[NZ];
    double along = vx * cx + vz * cz;
    double down = -(vx * nx + vy * ny + vz * nz) + epsilon * along * nz;
    double speed2 = along * along + down * down;
    if (speed2 < 1e-6) continue;
    double speed = sqrt(speed2), sine = down / speed, cosine = along / speed;
    double alpha = flow_angle(down, along);
    int owner = surface_of[i];
    double slope = t[SLOPE], stall = t[STALL];
    double deflection = owner >= 0 ? deflections[owner] : 0;
    double shift = t[TAU] * deflection;
    double flow = alpha - t[ZERO_LIFT];
    double size = flow < 0 ? -flow : flow;
    double lift = slope * (flow + shift), top = t[LIFT_MAX];
    if (lift > top) lift = top;
    else if (lift < -top) lift = -top;
    double drag = 0.012 + lift * lift * t[INDUCED] + 0.08 * shift * shift;
    double turn = t[MOMENT0] + t[MOMENT_TAU] * deflection;
    if (size > 0.9 * stall) {
      double s = smooth_step(size, 0.9 * stall, 0.9 * stall + 0.2);
      lift = (1 - s) * lift + s * (2 * sine * cosine + 0.5 * slope * shift * cosine * cosine);
      drag = (1 - s) * drag + s * (0.012 + 1.9 * sine * sine);
      turn = (1 - s) * turn - s * 0.25 * sine;
    }
    double area = t[AREA];
    if (i < wing_panels) lift_area += lift * area;
    double pressure = 0.5 * rho * speed2 * area;
    double along_n = pressure * (lift * cosine + drag * sine);
    double along_c = pressure * (lift * sine - drag * cosine);
    double couple = pressure * turn * t[CHORD];
    double px = along_n * nx + along_c * cx, py = along_n * ny, pz = along_n * nz + along_c * cz;
    fx += px;
    fy += py;
    fz += pz;
    mx += y * pz - z * py + couple * t[SX];
    my += z * px - x * pz + couple * t[SY];
    mz += x * py - y * px + couple * t[SZ];
  }
  double total = sqrt(vx0 * vx0 + vy0 * vy0 + vz0 * vz0);
  double bx = -0.5 * rho * body_drag * total * vx0;
  double by = -0.5 * rho * body_side * fabs(vy0) * vy0;
  double bz = -0.5 * rho * body_side * fabs(vz0) * vz0;
  force[0] = fx + bx;
  force[1] = fy + by;
  force[2] = fz + bz;
  moment[0] = mx;
  moment[1] = my - body_aft * bz;
  moment[2] = mz + body_aft * by;
}

static double motor_step(int i, double duty, double axial, double rho, double dt) {
  const double *m = motor[i];
  double back = omega[i] * m[0];
  double push = (duty * voltage - back) / m[3];
  double current = duty > 0.01 && push > 0 ? (push < m[5] ? push : m[5]) : 0;
  double n = omega[i] / (2 * M_PI);
  int turning = n > 0.5;
  if (turning) {
    double forward = axial > 0 ? axial : 0, d = m[6];
    double advance = forward / (n * d), head = rho * n * n;
    double ct = m[7] * (1 - advance / m[9]);
    if (ct < -0.2 * m[7]) ct = -0.2 * m[7];
    double x = advance / m[9];
    x = x < 0 ? 0 : x > 1.3 ? 1.3 : x;
    double cp = 1 + 0.15 * x - 0.85 * x * x;
    cp = m[8] * (cp < 0.05 ? 0.05 : cp);
    double d4 = d * d * d * d;
    thrust[i] = ct * head * d4;
    torque[i] = cp * head * d4 * d / (2 * M_PI);
    double under = forward * forward + 2 * thrust[i] / (rho * M_PI * d * d / 4);
    wake[i] = thrust[i] > 0 ? sqrt(under) - forward : 0;
  } else thrust[i] = torque[i] = wake[i] = 0;
  drive[i] = current * m[0] - (turning ? m[4] * m[0] : 0);
  double accel = (drive[i] - torque[i]) / m[1];
  if (accel > 20000) accel = 20000;
  else if (accel < -20000) accel = -20000;
  double next = omega[i] + accel * dt;
  omega[i] = next > 0 ? next : 0;
  return current * duty;
}

static void rotate(double w, double x, double y, double z, double *v) {
  double vx = v[0], vy = v[1], vz = v[2];
  double tx = 2 * (y * vz - z * vy), ty = 2 * (z * vx - x * vz), tz = 2 * (x * vy - y * vx);
  v[0] = vx + w * tx + y * tz - z * ty;
  v[1] = vy + w * ty + z * tx - x * tz;
  v[2] = vz + w * tz + x * ty - y * tx;
}

static double density(double h) {
  double t = 288.15 - 0.0065 * h;
  double p = 101325 * pow(t / 288.15, GRAVITY / (0.0065 * 287.05287));
  return p / (287.05287 * t);
}

static void step(long tick, double dt) {
  static double rho, panels_due;
  static double held_wake[MAX_MOTORS];
  memcpy(air, velocity, sizeof air);
  rotate(attitude[0], -attitude[1], -attitude[2], -attitude[3], air);
  if (tick % 32 == 0) rho = density(-position[2]);
  double p = rates[0], q = rates[1], r = rates[2];
  panels_due -= dt;
  if (panels_due < 0.5 * dt) {
    panels_due += dt > 0.002 ? dt : 0.002;
    memcpy(held_wake, wake, sizeof wake);
    evaluate(rho);
  }
  double fx = force[0], fy = force[1], fz = force[2], mx = moment[0], my = moment[1], mz = moment[2];
  double current = 0.9, hx = 0, hy = 0, hz = 0;
  for (int i = 0; i < motors; i++) {
    double x = arms[3 * i], y = arms[3 * i + 1], z = arms[3 * i + 2];
    double ax = axes[3 * i], ay = axes[3 * i + 1], az = axes[3 * i + 2];
    double vx = air[0] + q * z - r * y, vy = air[1] + r * x - p * z, vz = air[2] + p * y - q * x;
    double axial = vx * ax + vy * ay + vz * az;
    current += motor_step(i, duties[i], axial, rho, dt);
    double px = thrust[i] * ax, py = thrust[i] * ay, pz = thrust[i] * az;
    if (az < 0 && omega[i] > 50) {
      double drag = thrust[i] / (omega[i] * 0.5 * motor[i][6]);
      px -= drag * (vx - axial * ax);
      py -= drag * (vy - axial * ay);
      pz -= drag * (vz - axial * az);
    }
    fx += px;
    fy += py;
    fz += pz;
    double react = -senses[i] * drive[i];
    mx += y * pz - z * py + react * ax;
    my += z * px - x * pz + react * ay;
    mz += x * py - y * px + react * az;
    double h = senses[i] * motor[i][1] * omega[i];
    hx += h * ax;
    hy += h * ay;
    hz += h * az;
  }
  used += current * dt;
  double charge = 1 - used / capacity;
  charge = charge < 0 ? 0 : charge > 1 ? 1 : charge;
  double c = charge * 10;
  int k = (int)c;
  if (k > 9) k = 9;
  voltage = cells * (curve[k] + (curve[k + 1] - curve[k]) * (c - k)) - current * resistance;
  if (voltage < 0) voltage = 0;
  double lx = ix * p + hx, ly = iy * q + hy, lz = iz * r + hz;
  rates[0] = p + ((mx - (q * lz - r * ly)) / ix) * dt;
  rates[1] = q + ((my - (r * lx - p * lz)) / iy) * dt;
  rates[2] = r + ((mz - (p * ly - q * lx)) / iz) * dt;
  double a[3] = {fx / mass, fy / mass, fz / mass};
  rotate(attitude[0], attitude[1], attitude[2], attitude[3], a);
  velocity[0] += a[0] * dt;
  velocity[1] += a[1] * dt;
  velocity[2] += (a[2] + GRAVITY) * dt;
  double h = dt / 2, w = attitude[0], x = attitude[1], y = attitude[2], z = attitude[3];
  p = rates[0];
  q = rates[1];
  r = rates[2];
  attitude[0] = w + h * (-x * p - y * q - z * r);
  attitude[1] = x + h * (w * p + y * r - z * q);
  attitude[2] = y + h * (w * q - x * r + z * p);
  attitude[3] = z + h * (w * r + x * q - y * p);
  double n = 1 / sqrt(attitude[0] * attitude[0] + attitude[1] * attitude[1] + attitude[2] * attitude[2] + attitude[3] * attitude[3]);
  for (int i = 0; i < 4; i++) attitude[i] *= n;
  for (int i = 0; i < 3; i++) position[i] += velocity[i] * dt;
}

int main(int argc, char **argv) {
  if (argc != 3) return 2;
  FILE *f = fopen(argv[1], "r");
  if (!f) return 2;
  long steps = atol(argv[2]);
  panels = (int)read_number(f);
  wing_panels = (int)read_number(f);
  tail_panels = (int)read_number(f);
  motors = (int)read_number(f);
  surfaces = (int)read_number(f);
  for (int i = 0; i < panels * STRIDE; i++) table[i] = read_number(f);
  for (int i = 0; i < panels; i++) surface_of[i] = (int)read_number(f);
  for (int i = 0; i < panels * motors; i++) wake_share[i] = read_number(f);
  double *one[] = {&wing_area, &body_drag, &body_side, &body_aft, &downwash, &mass, &ix, &iy, &iz, &cells, &capacity, &resistance};
  for (size_t i = 0; i < sizeof one / sizeof *one; i++) *one[i] = read_number(f);
  for (int i = 0; i < 11; i++) curve[i] = read_number(f);
  for (int i = 0; i < 3 * motors; i++) arms[i] = read_number(f);
  for (int i = 0; i < 3 * motors; i++) axes[i] = read_number(f);
  for (int i = 0; i < motors; i++) senses[i] = read_number(f);
  for (int i = 0; i < motors; i++)
    for (int k = 0; k < 10; k++) motor[i][k] = read_number(f);
  for (int i = 0; i < surfaces; i++) deflections[i] = read_number(f);
  for (int i = 0; i < motors; i++) duties[i] = read_number(f);
  for (int i = 0; i < 3; i++) position[i] = read_number(f);
  for (int i = 0; i < 3; i++) velocity[i] = read_number(f);
  fclose(f);
  voltage = cells * curve[10];
  struct timespec a, b;
  clock_gettime(CLOCK_MONOTONIC, &a);
  for (long k = 0; k < steps; k++) step(k, 0.001);
  clock_gettime(CLOCK_MONOTONIC, &b);
  printf("%.9f", (double)(b.tv_sec - a.tv_sec) + 1e-9 * (double)(b.tv_nsec - a.tv_nsec));
  for (int i = 0; i < 3; i++) printf(" %.12g", position[i]);
  for (int i = 0; i < 3; i++) printf(" %.12g", velocity[i]);
  printf("\n");
  return 0;
}
